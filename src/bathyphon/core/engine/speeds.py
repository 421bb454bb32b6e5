"""A clip's speed, as its sound is made."""

from __future__ import annotations

from bathyphon.core.reel.model import Speed
from bathyphon.core.reel.values import movable_curve
from bathyphon.core.speed.change import SpeedChange


def speed_change_of(speed: Speed) -> SpeedChange:
    """What a clip's speed does, on the time line of its stream."""
    return SpeedChange(
        movable_curve(speed.percent),
        movable_curve(speed.semitones),
        movable_curve(speed.cents),
        speed.pitch,
        speed.formants,
        movable_curve(speed.formant_shift),
        speed.material,
        -speed.origin,
    )
