"""What *The Ninth Sump* shows of the craft: recipes and effects on its untreated reel.

Everything here is what anybody can do in the workbench, by the same commands.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.edits.here import Place
from bathyphon.core.engine.alone import clip_alone
from bathyphon.core.measure.beats import find_beats
from bathyphon.core.recipes import RECIPES
from bathyphon.core.recipes.kit.scene import Scene
from bathyphon.core.reel.model import Document
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.sounds.made import make
from bathyphon.formats.computed import ENDING, written
from bathyphon.formats.reel_file import FolderMedia

RATE = 48000
FRAME = RATE // 25
BED_SECONDS = 60.0
SOFT = 480
"""Samples of a fade that only keeps an edge from being heard."""


@dataclass
class Craft:
    """A reel that is worked on, with its sounds in a folder."""

    document: Document
    folder: Path
    _ids: dict[str, int] = field(default_factory=dict)

    def edit(self, **command: Any) -> None:
        """One edit."""
        read = read_reel(self.document)
        self.document = apply_edit(self.document, read, parse_command(command)).document

    def cook(self, recipe: str, here: Place, /, **answers: Any) -> list[str]:
        """A recipe with these answers; gives what it says."""
        scene = Scene(
            self.document, read_reel(self.document), here, self._sound, self._new_id,
            self._heard, self._beats,
        )  # fmt: skip
        plan = RECIPES[recipe].plan(scene, answers)
        for command in plan.commands:
            self.edit(**command)
        return plan.said

    def on(self, clip: str) -> Place:
        """With a clip selected, and the playhead where it begins."""
        part = next(c for t in self.document["tracks"] for c in t["clips"] if c["id"] == clip)
        return Place(at=part["start"], clip=clip)

    def _sound(
        self, model: str, settings: dict[str, float], seconds: float, name: str, seed: int
    ) -> tuple[str, str, int]:
        made = make(model, settings, seed, max(seconds, BED_SECONDS), name)
        file = self.folder / f"{name}{ENDING}"
        file.write_bytes(written(made))
        return name.lower().replace(" ", "-"), file.name, made.samples

    def _new_id(self, letter: str) -> str:
        self._ids[letter] = self._ids.get(letter, 0) + 1
        return f"{letter}-{self._ids[letter]}"

    def _media(self) -> FolderMedia:
        return FolderMedia(read_reel(self.document), self.folder)

    def _heard(self, clip: str) -> Any:
        return clip_alone(self.document, clip, self._media(), 60.0)

    def _beats(self, clip: str) -> list[int]:
        part = next(c for t in self.document["tracks"] for c in t["clips"] if c["id"] == clip)
        sound = self._media().read(part["media"], 0, part["source_start"] + part["length"])
        grid = find_beats(sound.mean(axis=0), RATE)
        return [int(beat) + part["start"] - part["source_start"] for beat in grid.beats()]


def at(frame: int) -> int:
    """The first sample of a frame."""
    return frame * FRAME


def effect(id: str, kind: str, **params: Any) -> dict[str, Any]:
    """An effect as documents have it."""
    return {"id": id, "kind": kind, "bypass": False, "params": params}


def on_a_hillside(craft: Craft) -> None:
    """Dawn: the score is wide at first, and gives way to the voices all along."""
    craft.edit(
        kind="add_treatment", track="music", id="dawn", name="Dawn",
        start={"frame": 0}, end={"frame": 300}, ramp_out={"frames": 60},
        effects=[effect("wide", "chorus", mix=28)],
    )  # fmt: skip
    craft.edit(
        kind="add_effect", owner="track:music",
        effect=effect("under", "duck", track="voice", range_db=14, threshold_db=-40),
    )  # fmt: skip
    craft.edit(
        kind="add_effect", owner="track:voice",
        effect=effect("even", "compress", threshold_db=-24, ratio=2.5, makeup_db=4),
    )  # fmt: skip


def in_the_crawl(craft: Craft) -> None:
    """Rock between us and the water; drips answer the cuts from side to side."""
    craft.edit(
        kind="add_treatment", track="water", id="narrow", name="Behind rock",
        start={"frame": 300}, end={"frame": 550}, ramp_in={"frames": 3}, ramp_out={"frames": 6},
        effects=[effect("dull", "muffle", high_cut_hz=900, level_db=-4, width=40)],
    )  # fmt: skip
    craft.edit(kind="set_chain", owner="treatment:narrow", strength=80)
    craft.cook("sides", craft.on("c-drips"), order="left, right", wide=55)


def in_the_great_chamber(craft: Craft) -> None:
    """A call comes back from the far wall."""
    craft.edit(
        kind="add_effect", owner="clip:c-l4",
        effect=effect("far", "echo", time_ms=640, feedback=34, high_cut_hz=2600, low_cut_hz=160),
    )  # fmt: skip


def at_the_pool(craft: Craft) -> None:
    """Topside answers by radio, whose noise is not to be cut off in the middle of a wave."""
    for id in ("c-l7", "c-l8"):
        for edge in ("in", "out"):
            craft.edit(kind="set_fade", id=id, edge=edge, fade={"length": SOFT})
    craft.cook("voice_from", craft.on("c-l7"), place="radio", level=-1)
    craft.cook("voice_from", craft.on("c-l8"), place="radio", level=2)


def under_the_sump(craft: Craft) -> None:
    """Into the water, and what is knocked there swells out of nothing."""
    craft.edit(
        kind="add_effect", owner="clip:c-plunge", effect=effect("deep", "pitch", semitones=-4)
    )
    craft.cook(
        "below_surface", Place(start=at(1125), end=at(1625)), depth=45, bed="bed", above="none"
    )
    craft.cook("swell", Place(at=at(1365)), length=3.0, hit="none", depth=7)


def in_the_air_bell(craft: Craft) -> None:
    """A small room of stone and air; drips wander about in it; a line fits its gap."""
    craft.edit(
        kind="add_treatment", track="voice", id="bell-voice", name="Air bell",
        start={"frame": 1625}, end={"frame": 1900}, ramp_in={"frames": 3}, ramp_out={"frames": 6},
        effects=[effect("stone", "space", response="air_bell", loudness="alike", mix=32)],
    )  # fmt: skip
    moves = {"keyframes": [
        {"at": 0, "value": -70, "ease": "linear"},
        {"at": at(475), "value": 70, "ease": "linear"},
    ]}  # fmt: skip
    craft.edit(
        kind="add_effect", owner="clip:c-bell",
        effect=effect("wander", "orbit", azimuth=moves, distance=1.5),
    )  # fmt: skip
    craft.cook("fit_line", craft.on("c-l10"), to="next cut", manner="natural")


def when_the_lamp_goes_out(craft: Craft) -> None:
    """It sputters, and runs down."""
    craft.edit(
        kind="add_effect", owner="clip:c-lamp", effect=effect("sputter", "crush", bits=10, mix=20)
    )
    craft.cook("tape", Place(clip="c-lamp", at=at(1980)), way="stop", over=0.7)


def at_the_title(craft: Craft) -> None:
    """The music stops on the beat, and rings out."""
    said = craft.cook(
        "end_with_picture", craft.on("c-score"), decay=6.0, at="last cut",
        on="before the last beat",
    )  # fmt: skip
    print(*said)


SCENES: list[Callable[[Craft], None]] = [
    on_a_hillside, in_the_crawl, in_the_great_chamber, at_the_pool, under_the_sump,
    in_the_air_bell, when_the_lamp_goes_out, at_the_title,
]  # fmt: skip


def crafted(document: Document, folder: Path, level_db: float) -> Document:
    """The reel with all of it, as loud as the web wants it: peaks are held below −1 dBTP."""
    craft = Craft(document, folder)
    for scene in SCENES:
        scene(craft)
    limit = effect("held", "limit", gain_db=level_db, ceiling_db=-1.5)
    craft.edit(kind="add_effect", owner="mix", effect=limit)
    return craft.document
