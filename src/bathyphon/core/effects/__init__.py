"""Effects: one module each, found by name in :data:`EFFECTS`."""

from bathyphon.core.effects import (
    chorus,
    compress,
    crush,
    drive,
    duck,
    echo,
    eq,
    flanger,
    gain,
    gate,
    harmony,
    limit,
    muffle,
    orbit,
    pan,
    phaser,
    pitch,
    reverb,
    ring,
    space,
    telephone,
    tone,
    tremolo,
    vibrato,
)
from bathyphon.core.effects.base import Effect

# In the order in which they are offered: space, tone, grit, movement, level.
EFFECTS: dict[str, Effect] = {
    effect.id: effect
    for effect in (
        muffle.EFFECT,
        reverb.EFFECT,
        space.EFFECT,
        echo.EFFECT,
        telephone.EFFECT,
        tone.EFFECT,
        eq.EFFECT,
        pitch.EFFECT,
        harmony.EFFECT,
        pan.EFFECT,
        orbit.EFFECT,
        tremolo.EFFECT,
        vibrato.EFFECT,
        chorus.EFFECT,
        flanger.EFFECT,
        phaser.EFFECT,
        ring.EFFECT,
        drive.EFFECT,
        crush.EFFECT,
        gain.EFFECT,
        compress.EFFECT,
        limit.EFFECT,
        gate.EFFECT,
        duck.EFFECT,
    )
}

__all__ = ["EFFECTS", "Effect"]
