"""Shifts of the pitch, as the effects that move it set them."""

from __future__ import annotations

from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.speed.change import NO_SHIFT, SpeedChange
from bathyphon.core.timing.curves import Curve


def shift_by(
    settings: Settings,
    semitones: Curve,
    cents: Curve,
    formant_shift: Curve = NO_SHIFT,
    late: int = 0,
) -> SpeedChange:
    """A shift of the pitch, with what an effect says of formants and material.

    What is moved is heard ``late`` samples after it was sung; the curves are those of when it is
    heard.
    """
    return SpeedChange(
        Curve.constant(100.0),
        semitones,
        cents,
        formants="hold" if settings.choice("formants") == 1 else "follow",
        formant_shift=formant_shift,
        material="voice" if settings.choice("material") == 0 else "music",
        origin=late,
    )


def lowest_ratio(semitones: Curve, cents: Curve) -> float:
    """Smallest factor by which frequencies are multiplied."""
    return float(2.0 ** ((semitones.smallest + 0.01 * cents.smallest) / 12.0))
