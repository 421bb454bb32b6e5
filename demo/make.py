"""Makes *The Ninth Sump* anew: picture, sounds and reel.json in ``demo/ninth_sump/``.

Run as ``.venv/bin/python demo/make.py [picture] [sound] [reel]``. Needs Debian's ``festival``,
``festvox-us-slt-hts`` and ``flite``; the results are shipped, so nobody else does.
"""

from __future__ import annotations

import json
import sys
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

import picture
import sounds
import voices
from sounds import RATE, Sound

FOLDER = Path(__file__).parent / "ninth_sump"
FRAME = RATE // picture.FPS
BEDS: list[tuple[str, str, float, float, int]] = [
    # file, name, seconds, length, fade in frames
    ("wind.opus", "Hillside wind", 0.0, 12.0, 10),
    ("drips.opus", "Passage drips", 12.0, 24.4, 12),
    ("lapping.opus", "Pool lapping", 36.0, 9.0, 8),
    ("deep.opus", "Deep water, bubbles", 45.0, 20.0, 3),
    ("bell.opus", "Air bell, drips", 65.0, 19.0, 8),
]
HITS = [
    ("plunge.opus", "Plunge", 44.9),
    ("knock.opus", "Tank on rock", 54.6),
    ("lamp.opus", "Lamp fizzles", 78.2),
]


def write(name: str, sound: Sound, kbits: int) -> None:
    """Encode a stereo sound as Opus."""
    peak = np.abs(sound).max()
    if peak > 0.97:
        sound = sound * (0.97 / peak)
    with av.open(str(FOLDER / name), "w", format="ogg") as out:
        stream = out.add_stream("libopus", rate=RATE, layout="stereo")
        stream.bit_rate = kbits * 1000
        data = sound.astype(np.float32)
        for start in range(0, data.shape[1], 960):
            block = np.ascontiguousarray(data[:, start : start + 960].T.reshape(1, -1))
            frame = av.AudioFrame.from_ndarray(block, "flt", "stereo")
            frame.rate, frame.pts, frame.time_base = RATE, start, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode())


def make_sounds() -> None:
    """Score, beds, hits and voices."""
    write("score.opus", sounds.score(), 112)
    write("wind.opus", sounds.wind(12.0), 64)
    write("drips.opus", sounds.drips(24.4, 6, 34), 64)
    write("lapping.opus", sounds.lapping(9.0), 64)
    write("deep.opus", sounds.deep(20.0), 64)
    write("bell.opus", sounds.drips(19.0, 9, 22, 0.2), 64)
    write("plunge.opus", sounds.plunge(), 80)
    write("knock.opus", sounds.knock(), 80)
    write("lamp.opus", sounds.lamp(), 80)
    for id, speaker, _, text, _ in voices.LINES:
        write(f"{id}.opus", voices.speak(speaker, text), 64)


def length_of(name: str) -> int:
    """Samples of an encoded sound at 48 kHz."""
    with av.open(str(FOLDER / name)) as container:
        return sum(frame.samples for frame in container.decode(audio=0))


def clip(id: str, media: str, name: str, at: float, **more: Any) -> dict[str, Any]:
    """A clip that begins on a frame."""
    start = round(at * picture.FPS) * FRAME
    return {
        "id": id,
        "media": media,
        "name": name,
        "start": start,
        "length": length_of(f"{media}.opus"),
        "source_start": 0,
        "gain_db": 0,
        **more,
    }


def fades(head: int, foot: int) -> dict[str, Any]:
    """Fades of so many frames."""
    return {
        "fade_in": {"length": head * FRAME, "shape": "equal_power"},
        "fade_out": {"length": foot * FRAME, "shape": "equal_power"},
    }


def make_reel() -> None:
    """The reel that the demo opens."""
    names = [
        "score",
        *(b[0][:-5] for b in BEDS),
        *(h[0][:-5] for h in HITS),
        *(line[0] for line in voices.LINES),
    ]
    media = [{"id": "picture", "path": "picture.mp4"}]
    media += [{"id": name, "path": f"{name}.opus"} for name in names]
    voice = [clip(f"c-{id}", id, name, at) for id, _, at, _, name in voices.LINES]
    call = next(c for c in voice if c["media"] == "l4")
    call["treatment"] = {
        "effects": [
            {
                "id": "far",
                "kind": "echo",
                "bypass": False,
                "params": {"time_ms": 640, "feedback": 34, "high_cut_hz": 2600, "low_cut_hz": 160},
            }
        ]
    }
    beds = [
        clip(f"c-{f[:-5]}", f[:-5], name, at, **fades(fade, fade)) for f, name, at, _, fade in BEDS
    ]
    hits = [clip(f"c-{f[:-5]}", f[:-5], name, at) for f, name, at in HITS]
    music = [clip("c-score", "score", "Score · cue 3", 0.0)]

    # The music gives way to the voices.
    under = {
        "id": "under",
        "kind": "duck",
        "bypass": False,
        "params": {"track": "voice", "range_db": 11, "threshold_db": -38},
    }

    def track(
        id: str,
        name: str,
        gain: float,
        clips: list[Any],
        spans: Any = (),
        effects: Any = (),
    ) -> dict[str, Any]:
        return {
            "id": id,
            "name": name,
            "gain_db": gain,
            "pan": 0,
            "mute": False,
            "solo": False,
            "clips": clips,
            "treatments": list(spans),
            "treatment": {"effects": list(effects)},
        }

    narrowing = {
        "id": "narrow",
        "name": "Behind rock",
        "start": 300 * FRAME,
        "length": 250 * FRAME,
        "ramp_in": {"length": 3 * FRAME, "shape": "linear"},
        "ramp_out": {"length": 6 * FRAME, "shape": "linear"},
        "strength": 80,
        "ring_out": "auto",
        "effects": [
            {
                "id": "dull",
                "kind": "muffle",
                "bypass": False,
                "params": {"high_cut_hz": 900, "level_db": -4, "width": 40},
            }
        ],
    }
    reel = {
        "format": "bathyphon-reel",
        "version": 1,
        "name": "The Ninth Sump",
        "frame_rate": "25/1",
        "drop_frame": False,
        "sample_rate": RATE,
        "start_timecode": "00:00:00:00",
        "media": media,
        "picture": {
            "clips": [
                {
                    "media": "picture",
                    "start": 0,
                    "length": picture.FRAMES * FRAME,
                    "source_start": 0,
                }
            ],
            "cuts": picture.CUTS,
        },
        "markers": [
            {"id": "k1", "at": 1125 * FRAME, "label": "goes under"},
            {"id": "k2", "at": 1365 * FRAME, "label": "knock"},
            {"id": "k3", "at": 1625 * FRAME, "label": "surfaces"},
        ],
        "tracks": [
            track("voice", "Voice", 0, voice),
            track("music", "Music", -6, music, effects=[under]),
            track("water", "Water", -6, beds, [narrowing]),
            track("knocks", "Knocks", -4.5, hits),
        ],
        "mix": {"gain_db": 0, "treatment": {"effects": []}},
    }
    text = json.dumps(reel, ensure_ascii=False, indent=1)
    (FOLDER / "reel.json").write_text(text + "\n", encoding="utf-8")


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    wanted = sys.argv[1:] or ["picture", "sound", "reel"]
    if "picture" in wanted:
        picture.make(FOLDER / "picture.mp4")
    if "sound" in wanted:
        make_sounds()
    if "reel" in wanted:
        make_reel()
