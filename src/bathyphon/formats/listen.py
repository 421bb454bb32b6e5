"""What a conformed sound tells: loudness, onsets and beats."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.measure.beats import find_beats
from bathyphon.core.measure.loudness import LoudnessMeter
from bathyphon.core.measure.onsets import novelty, onsets
from bathyphon.formats.conform import ConformedFile

LONGEST_MUSIC_SECONDS = 20 * 60
_PART_SECONDS = 60


def listen(sound: ConformedFile, folder: Path, rate: int, name: str) -> dict[str, Any]:
    """Measure a sound; writes ``onsets-NAME.i32``, the onsets' samples, and returns the rest.

    Music is looked at as a whole up to twenty minutes; of longer sounds the onsets alone are found,
    part by part, so that memory stays bounded.
    """
    meter = LoudnessMeter(rate)
    part = _PART_SECONDS * rate
    starts: list[NDArray[np.int64]] = []
    long = sound.samples > LONGEST_MUSIC_SECONDS * rate
    mono = np.empty(0 if long else sound.samples, np.float32)
    for a in range(0, sound.samples, part):
        block = sound.read(a, min(a + part, sound.samples))
        meter.add(block)
        both = 0.5 * (block[0] + block[1])
        if long:
            starts.append(onsets(both, rate).at + a)
        else:
            mono[a : a + both.size] = both
    tempo, steadiness, stretches = None, 0.0, []
    if not long:
        rise = novelty(mono, rate)
        found = onsets(mono, rate, rise)
        grid = find_beats(mono, rate, rise, found)
        starts.append(found.at)
        tempo, steadiness = grid.tempo, grid.steadiness
        stretches = [asdict(s) for s in grid.stretches]
    all_starts = np.concatenate(starts) if starts else np.zeros(0, np.int64)
    all_starts.astype("<i4").tofile(folder / f"onsets-{name}.i32")
    return {
        "loudness": meter.integrated(),
        "onsets": int(all_starts.size),
        "tempo": tempo,
        "steadiness": steadiness,
        "stretches": stretches,
    }
