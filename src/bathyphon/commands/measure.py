"""``bathyphon measure``."""

from __future__ import annotations

import math
from argparse import Namespace
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.commands import Result
from bathyphon.commands.stretches import read_stretch
from bathyphon.core.errors import Refused
from bathyphon.core.measure.against import likeness
from bathyphon.core.measure.decay import decay_times
from bathyphon.core.measure.levels import Levels, levels_of, louder_by
from bathyphon.core.measure.spectrum import Spectrum
from bathyphon.core.measure.tally import Tally
from bathyphon.formats.conform import stereo_blocks
from bathyphon.formats.decode import probe

Sound = NDArray[np.float32]
LONGEST_SECONDS = 300
"""Sound that is held against another is held in memory: of longer ones the beginning."""


def run(options: Namespace) -> Result:
    """``measure IN``."""
    path = Path(options.source)
    if options.findings or path.suffix.lower() == ".json":
        from bathyphon.commands.judge import judge

        return judge(path, options)
    compares = LONGEST_SECONDS if options.against is not None else 0
    heard = _heard(path, options.over, math.inf if options.rt else compares)
    result = _figures(heard)
    lines = _lines(heard)
    if options.rt:
        bands = decay_times(heard.kept, heard.rate)
        result["decay"] = [{"hz": b.centre_hz, "t20_s": b.t20, "t30_s": b.t30} for b in bands]
        lines += [
            f"decay {b.centre_hz:6.0f} Hz  T20 {text(b.t20, 's', 3)}  T30 {text(b.t30, 's', 3)}"
            for b in bands
        ]
    if options.against is not None:
        found, said = _against(heard, _heard(Path(options.against), options.over, LONGEST_SECONDS))
        result["against"] = found
        lines += said
    return result | {"lines": lines}


@dataclass(frozen=True)
class _Heard:
    """What has been measured of a file, and its sound where that is needed."""

    path: Path
    rate: int
    channels: int
    start: int
    samples: int
    rows: NDArray[np.float64]
    levels: Levels
    spectrum: Spectrum
    kept: Sound


def _heard(path: Path, over: str | None, keep: float) -> _Heard:
    """Measure a file, and keep so many seconds of its sound."""
    stream = probe(path).sound
    if stream is None:
        raise Refused(f"“{path.name}” holds no sound")
    rate = stream.rate
    start, stop = read_stretch(over, rate) if over else (0, None)
    meter, spectrum = Tally(rate), Spectrum(rate)
    kept: list[Sound] = []
    samples = held = 0
    for block in _between(stereo_blocks(path), start, stop):
        block = np.nan_to_num(block, nan=0.0, posinf=0.0, neginf=0.0)
        meter.add(block)
        spectrum.add(0.5 * (block[0] + block[1]))
        samples += block.shape[1]
        if held < keep * rate:
            kept.append(block)
            held += block.shape[1]
    if over and not samples:
        raise Refused(f"--over {over}: “{path.name}” ends before that")
    meter.finish()
    whole = np.concatenate(kept, axis=1) if kept else np.zeros((2, 0), np.float32)
    rows = meter.rows()
    return _Heard(
        path, rate, len(stream.channels), start, samples, rows, levels_of(rows), spectrum, whole
    )


def _between(blocks: Iterator[Sound], start: int, stop: int | None) -> Iterator[Sound]:
    """What of the blocks lies in ``[start, stop)``."""
    at = 0
    for block in blocks:
        n = block.shape[1]
        first, last = max(0, start - at), n if stop is None else min(n, stop - at)
        at += n
        if first < last:
            yield block[:, first:last]
        if stop is not None and at >= stop:
            return


def figures(levels: Levels) -> Result:
    """Levels by the names of the command line's JSON."""
    return {
        "loudness_lufs": levels.loudness,
        "loudness_range_lu": levels.range,
        "momentary_max_lufs": levels.momentary,
        "short_term_max_lufs": levels.short_term,
        "true_peak_dbtp": levels.true_peak,
        "peak_dbfs": levels.peak,
        "rms_dbfs": levels.rms,
        "correlation": levels.correlation,
        "full_scale_samples": levels.full,
    }


def level_lines(levels: Levels) -> list[str]:
    """The same as one reads it."""
    return [
        f"loudness        {text(levels.loudness, 'LUFS')}",
        f"loudness range  {text(levels.range, 'LU')}",
        f"loudest 400 ms  {text(levels.momentary, 'LUFS')}",
        f"loudest 3 s     {text(levels.short_term, 'LUFS')}",
        f"true peak       {text(levels.true_peak, 'dBTP', 2)}",
        f"peak            {text(levels.peak, 'dBFS', 2)}",
        f"left to right   {text(levels.correlation, 'correlation', 2)}",
    ]


def _figures(heard: _Heard) -> Result:
    return figures(heard.levels) | {
        "octaves": _octaves(heard.spectrum),
        "duration_s": heard.samples / heard.rate,
        "from_sample": heard.start,
        "samples": heard.samples,
        "sample_rate": heard.rate,
        "channels": heard.channels,
    }


def _lines(heard: _Heard) -> list[str]:
    many = "s" if heard.channels > 1 else ""
    return [
        *level_lines(heard.levels),
        f"duration        {heard.samples / heard.rate:.6f} s ({heard.samples} samples at "
        f"{heard.rate} Hz, {heard.channels} channel{many})",
    ]


def _octaves(spectrum: Spectrum) -> list[dict[str, float]]:
    return [{"hz": hz, "dbfs": db} for hz, db in spectrum.octaves()]


def _against(heard: _Heard, other: _Heard) -> tuple[dict[str, Any], list[str]]:
    """How a sound differs from another."""
    if heard.rate != other.rate:
        raise Refused(
            f"“{heard.path.name}” has {heard.rate} Hz and “{other.path.name}” {other.rate} Hz: "
            "convert one of them first"
        )
    n = min(len(heard.rows), len(other.rows))
    louder = louder_by(heard.rows[:n], other.rows[:n])
    bands = [
        {"hz": hz, "db": mine - theirs}
        for (hz, mine), (_, theirs) in zip(
            heard.spectrum.octaves(), other.spectrum.octaves(), strict=True
        )
    ]
    most = LONGEST_SECONDS * heard.rate
    mono = [h.kept[:, :most].mean(axis=0, dtype=np.float64) for h in (heard, other)]
    like = likeness(mono[0], mono[1], heard.rate)
    found = {
        "file": str(other.path),
        "louder_lu": louder,
        "octaves": bands,
        "delay_samples": like and like.delay,
        "correlation": like and like.correlation,
        "longer_samples": heard.samples - other.samples,
    }
    late = (
        "—" if like is None else f"{like.delay} samples ({1000 * like.delay / heard.rate:.1f} ms)"
    )
    lines = [
        f"against “{other.path.name}”:",
        f"  louder        {text(louder, 'LU')}",
        f"  later         {late}",
        f"  alike         {text(like.correlation if like else None, 'correlation', 3)}",
        *(f"  {band['hz']:7.0f} Hz    {band['db']:+.1f} dB" for band in bands),
    ]
    return found, lines


def text(value: float | None, unit: str, digits: int = 1) -> str:
    """A figure with its unit; a dash where there is none."""
    return "—" if value is None else f"{value:.{digits}f} {unit}"
