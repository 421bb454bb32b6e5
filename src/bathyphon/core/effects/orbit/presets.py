"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset, moving

PRESETS: tuple[Preset, ...] = (
    Preset("Once around", "A full circle around the head.",
           {"azimuth": moving((0, 0), (1, 360), ease="linear")},
           words="circle"),
    Preset("Passes by", "From the left, close in front, away to the right.",
           {"azimuth": moving((0, -80), (0.5, 0), (1, 80)),
            "distance": moving((0, 12), (0.5, 1), (1, 12))},
           words="fly by flyby car pass"),
    Preset("Over the shoulder", "From the front to behind on the right.",
           {"azimuth": moving((0, 10), (1, 165))},
           words="behind"),
    Preset("Walks away", "Straight ahead, further and further.",
           {"azimuth": 0, "distance": moving((0, 1), (1, 30))},
           words="distance leave far recede"),
    Preset("Restless", "From ear to ear and back.",
           {"azimuth": moving((0, -90), (0.25, 90), (0.5, -90), (0.75, 90), (1, -90))},
           words="to and fro"),
)  # fmt: skip
