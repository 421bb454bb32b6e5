"""Makes *The Ninth Sump* anew: picture, sounds and reel.json in ``demo/ninth_sump/``.

Run as ``PYTHONPATH=src .venv/bin/python demo/make.py [picture] [sound] [reel]``. Needs Debian's
``festival``, ``festvox-us-slt-hts`` and ``flite``; the results are shipped, so nobody else does.
"""

from __future__ import annotations

import sys
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

import picture
import sounds
import voices
from bathyphon.core.reel.model import Document
from bathyphon.formats.reel_file import save_document
from craft import crafted
from sounds import RATE, Sound

FOLDER = Path(__file__).parent / "ninth_sump"
FRAME = RATE // picture.FPS
MIX_DB = 5.0
"""Level of the mix at which the whole is as loud as the web wants it."""
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


def untreated() -> Document:
    """The reel as it is cut, before anything is done to its sound."""
    names = ["score", *(h[0][:-5] for h in HITS), *(line[0] for line in voices.LINES)]
    media = [{"id": "picture", "path": "picture.mp4"}]
    media += [{"id": name, "path": f"{name}.opus"} for name in names]
    voice = [clip(f"c-{id}", id, name, at) for id, _, at, _, name in voices.LINES]
    hits = [clip(f"c-{f[:-5]}", f[:-5], name, at) for f, name, at in HITS]
    shown = {
        "media": "picture", "start": 0, "length": picture.FRAMES * FRAME, "source_start": 0
    }  # fmt: skip
    return {
        "format": "bathyphon-reel",
        "version": 1,
        "name": "The Ninth Sump, untreated",
        "frame_rate": "25/1",
        "drop_frame": False,
        "sample_rate": RATE,
        "start_timecode": "00:00:00:00",
        "media": media,
        "picture": {"clips": [shown], "cuts": picture.CUTS},
        "markers": [
            {"id": "k1", "at": 1125 * FRAME, "label": "goes under"},
            {"id": "k2", "at": 1365 * FRAME, "label": "knock"},
            {"id": "k3", "at": 1625 * FRAME, "label": "surfaces"},
        ],
        "tracks": [
            track("voice", "Voice", 0, voice),
            track("music", "Music", -6, [clip("c-score", "score", "Score · cue 3", 0.0)]),
            track("water", "Water", -6, []),
            track("knocks", "Knocks", -4.5, hits),
        ],
        "mix": {"gain_db": 0, "treatment": {"effects": []}},
    }


def track(id: str, name: str, gain: float, clips: list[Any]) -> dict[str, Any]:
    """A track with nothing on it but clips."""
    return {
        "id": id,
        "name": name,
        "gain_db": gain,
        "pan": 0,
        "mute": False,
        "solo": False,
        "clips": clips,
        "treatments": [],
        "treatment": {"effects": []},
    }


def with_beds(document: Document) -> Document:
    """The same with its water and air, from cut to cut."""
    beds = [
        clip(f"c-{f[:-5]}", f[:-5], name, at, bed=True, **fades(fade, fade))
        for f, name, at, _, fade in BEDS
    ]
    media = [{"id": f[:-5], "path": f} for f, *_ in BEDS]
    tracks = [{**t, "clips": beds} if t["id"] == "water" else t for t in document["tracks"]]
    return {
        **document,
        "name": "The Ninth Sump",
        "media": [*document["media"], *media],
        "tracks": tracks,
    }


def make_reel() -> None:
    """The reel that the demo opens, and its twin, which asks to be worked on."""
    plain = untreated()
    save_document(FOLDER / "untreated.json", plain)
    save_document(FOLDER / "reel.json", crafted(with_beds(plain), FOLDER, MIX_DB))


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    wanted = sys.argv[1:] or ["picture", "sound", "reel"]
    if "picture" in wanted:
        picture.make(FOLDER / "picture.mp4")
    if "sound" in wanted:
        make_sounds()
    if "reel" in wanted:
        make_reel()
