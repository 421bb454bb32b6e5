"""``bathyphon stretch``."""

from __future__ import annotations

import math
from argparse import Namespace
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

from bathyphon.commands import Result
from bathyphon.commands.whole import stored_sound
from bathyphon.core.errors import Refused
from bathyphon.core.reel.limits import FASTEST, SLOWEST, WIDEST_ST
from bathyphon.core.speed.steady import Change, Formants, changed_pieces, reader
from bathyphon.core.timing.pace import stretched_length
from bathyphon.formats.conform import own_blocks
from bathyphon.formats.wav import Bits, SoundWriter, container_of


def run(options: Namespace) -> Result:
    """``stretch IN OUT --speed PERCENT | --to SECONDS``."""
    source, out = Path(options.source), Path(options.out)
    bits: Bits = options.bits or ("24" if container_of(out) == "FLAC" else "32f")
    with TemporaryDirectory(prefix="bathyphon-") as folder:
        x, rate = stored_sound(source, own_blocks, Path(folder))
        percent, length = _speed(options, x.shape[1], rate)
        semitones = options.semitones + options.cents / 100.0
        if not math.isfinite(semitones) or abs(semitones) > WIDEST_ST:
            raise Refused(f"a shift of {semitones:g} semitones is outside −24 to 24")
        formants: Formants = options.formants or (
            "hold" if options.material == "voice" else "follow"
        )
        change = Change(percent, options.pitch, semitones, formants, options.material)
        with SoundWriter(out, rate, bits, length, channels=x.shape[0]) as writer:
            for piece in changed_pieces(reader(x), change, length, rate):
                whole = np.broadcast_to(piece, (x.shape[0], piece.shape[1]))
                writer.write(whole.astype(np.float32))
    shift = 12.0 * math.log2(change.ratio)
    return {
        "out": str(out),
        "samples": length,
        "sample_rate": rate,
        "percent": percent,
        "pitch_semitones": shift,
        "lines": [
            f"{out}: {length} samples at {rate} Hz, {percent:.6g} % of the speed, "
            f"pitch {shift:+.3f} st"
        ],
    }


def _speed(options: Namespace, samples: int, rate: int) -> tuple[float, int]:
    """The speed in percent, and the samples of the result."""
    if options.to is None:
        percent = options.speed
        if not math.isfinite(percent) or not SLOWEST <= percent <= FASTEST:
            raise Refused(f"--speed {percent:g}: give {SLOWEST:g} to {FASTEST:g} percent")
        return percent, stretched_length(samples, percent)
    if not math.isfinite(options.to) or options.to <= 0:
        raise Refused(f"--to {options.to:g}: give seconds above 0")
    length = max(1, round(options.to * rate))
    percent = 100.0 * samples / length
    if not SLOWEST <= percent <= FASTEST:
        raise Refused(
            f"--to {options.to:g} would take {percent:.4g} % of the speed; "
            f"{SLOWEST:g} to {FASTEST:g} % are possible"
        )
    return percent, length
