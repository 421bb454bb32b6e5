"""How well speech, music and beds are told apart, on real recordings.

Recordings come from Debian's packages, fetched by name: words in many languages, telephone prompts,
music of games and for waiting. Run as ``PYTHONPATH=src .venv/bin/python bench/material.py
[FOLDER]``; the packages are unpacked into the folder, and stay there. Prints what was taken for
what.
"""

from __future__ import annotations

import random
import subprocess
import sys
from collections import Counter
from pathlib import Path

import numpy as np
import soundfile
import soxr
from numpy.typing import NDArray

from bathyphon.core.measure.material import RATE, likely

SPEECH = {
    "asterisk-core-sounds-en-wav": 40, "asterisk-core-sounds-fr-wav": 40,
    "asterisk-core-sounds-es-wav": 40, "ktuberling-data": 40, "alsa-utils": 2,
}  # fmt: skip
MUSIC = ("supertux-data", "wesnoth-1.16-music", "extremetuxracer-data", "asterisk-moh-opsound-wav",
         "frozen-bubble-data", "pingus-data")  # fmt: skip
ENDINGS = {".wav", ".ogg", ".flac", ".opus"}
LONGEST_SECONDS = 20


def unpacked(package: str, folder: Path) -> list[Path]:
    """The sounds of a package, fetched if they are not there."""
    there = folder / package
    if not there.exists():
        subprocess.run(["apt-get", "download", "-q", package], cwd=folder, check=True)
        archive = next(folder.glob(f"{package}_*.deb"))
        subprocess.run(["dpkg-deb", "-x", archive, there], check=True)
    return sorted(p for p in there.rglob("*") if p.suffix in ENDINGS)


def read(path: Path) -> NDArray[np.float64] | None:
    """A sound as one channel, as it is listened to."""
    try:
        x, rate = soundfile.read(path, always_2d=True)
    except soundfile.LibsndfileError:
        return None
    return soxr.resample(x.mean(axis=1), rate, RATE)


def tracks_of_speech(
    paths: list[Path], count: int, rng: random.Random
) -> list[NDArray[np.float64]]:
    """Lines one after another with pauses, as they lie on a track."""
    paths = rng.sample(paths, len(paths))
    found = []
    for _ in range(count):
        parts: list[NDArray[np.float64]] = []
        while paths and sum(map(len, parts)) < RATE * rng.uniform(6, LONGEST_SECONDS):
            x = read(paths.pop())
            if x is not None and len(x) > 0.3 * RATE:
                parts += [x, np.zeros(int(RATE * rng.choice([0, 0.2, 0.5, 1.0, 3.0])))]
        if parts:
            found.append(np.concatenate(parts))
    return found


def excerpts(paths: list[Path], rng: random.Random) -> list[NDArray[np.float64]]:
    """Two stretches of each piece of music."""
    found = []
    for path in paths:
        x = read(path)
        if x is None or len(x) < 8 * RATE:
            continue
        for _ in range(2):
            n = int(RATE * rng.uniform(8, LONGEST_SECONDS))
            first = rng.randrange(max(1, len(x) - n))
            found.append(x[first : first + n])
    return found


def main(folder: Path) -> None:
    """Print what was taken for what."""
    folder.mkdir(parents=True, exist_ok=True)
    rng = random.Random(1)
    confusion: Counter[tuple[str, str]] = Counter()
    for package, count in SPEECH.items():
        for sound in tracks_of_speech(unpacked(package, folder), count, rng):
            found = likely(sound)
            confusion["speech", found.material if found else "nothing"] += 1
    for package in MUSIC:
        for sound in excerpts(unpacked(package, folder), rng):
            found = likely(sound)
            confusion["music", found.material if found else "nothing"] += 1
    for (given, taken), count in sorted(confusion.items()):
        print(f"{given:8s} taken for {taken:8s} {count}")
    for given in ("speech", "music"):
        total = sum(n for (g, _), n in confusion.items() if g == given)
        print(f"{given}: {100 * confusion[given, given] / total:.1f} % of {total}")


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else Path("/tmp/bathyphon-material"))
