"""``bathyphon measure``."""

from __future__ import annotations

import math
from argparse import Namespace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bathyphon.commands import Result
from bathyphon.core.errors import Refused
from bathyphon.core.measure.decay import decay_times
from bathyphon.core.measure.loudness import LoudnessMeter
from bathyphon.core.measure.true_peak import TruePeakMeter
from bathyphon.formats.conform import stereo_blocks
from bathyphon.formats.decode import probe


def run(options: Namespace) -> Result:
    """``measure IN``."""
    path = Path(options.source)
    sound = probe(path).sound
    if sound is None:
        raise Refused(f"“{path.name}” holds no sound")
    loudness, peak = LoudnessMeter(sound.rate), TruePeakMeter()
    kept: list[NDArray[np.float32]] = []
    samples = 0
    for block in stereo_blocks(path):
        block = np.nan_to_num(block, nan=0.0, posinf=0.0, neginf=0.0)
        loudness.add(block)
        peak.add(block)
        samples += block.shape[1]
        if options.rt:
            kept.append(block)
    peak.finish()
    seconds = samples / sound.rate
    result: Result = {
        "loudness_lufs": loudness.integrated(),
        "loudness_range_lu": loudness.range(),
        "true_peak_dbtp": _db(peak.true_peak),
        "peak_dbfs": _db(peak.sample_peak),
        "duration_s": seconds,
        "samples": samples,
        "sample_rate": sound.rate,
        "channels": len(sound.channels),
    }
    lines = [
        f"loudness        {_text(result['loudness_lufs'], 'LUFS')}",
        f"loudness range  {_text(result['loudness_range_lu'], 'LU')}",
        f"true peak       {_text(result['true_peak_dbtp'], 'dBTP', 2)}",
        f"peak            {_text(result['peak_dbfs'], 'dBFS', 2)}",
        f"duration        {seconds:.6f} s ({samples} samples at {sound.rate} Hz, "
        f"{len(sound.channels)} channel{'s' if len(sound.channels) > 1 else ''})",
    ]
    if options.rt:
        whole = np.concatenate(kept, axis=1) if kept else np.zeros((2, 0), np.float32)
        bands = decay_times(whole, sound.rate)
        result["decay"] = [{"hz": b.centre_hz, "t20_s": b.t20, "t30_s": b.t30} for b in bands]
        lines += [
            f"decay {b.centre_hz:6.0f} Hz  T20 {_text(b.t20, 's', 3)}  T30 {_text(b.t30, 's', 3)}"
            for b in bands
        ]
    result["lines"] = lines
    return result


def _db(amplitude: float) -> float | None:
    return 20.0 * math.log10(amplitude) if amplitude > 0 else None


def _text(value: float | None, unit: str, digits: int = 1) -> str:
    return "—" if value is None else f"{value:.{digits}f} {unit}"
