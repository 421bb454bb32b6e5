"""Effects: one module each, found by name in :data:`EFFECTS`."""

from bathyphon.core.effects import (
    compress,
    crush,
    echo,
    gain,
    gate,
    muffle,
    pan,
    reverb,
    ring,
    telephone,
    tone,
    tremolo,
)
from bathyphon.core.effects.base import Effect

# In the order in which they are offered: space, tone, grit, movement, level.
EFFECTS: dict[str, Effect] = {
    effect.id: effect
    for effect in (
        muffle.EFFECT,
        reverb.EFFECT,
        echo.EFFECT,
        telephone.EFFECT,
        tone.EFFECT,
        pan.EFFECT,
        tremolo.EFFECT,
        ring.EFFECT,
        crush.EFFECT,
        gain.EFFECT,
        compress.EFFECT,
        gate.EFFECT,
    )
}

__all__ = ["EFFECTS", "Effect"]
