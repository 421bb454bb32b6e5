"""Effects: one module each, found by name in :data:`EFFECTS`."""

from bathyphon.core.effects import echo, gain, muffle, reverb
from bathyphon.core.effects.base import Effect

EFFECTS: dict[str, Effect] = {
    effect.id: effect for effect in (gain.EFFECT, muffle.EFFECT, reverb.EFFECT, echo.EFFECT)
}

__all__ = ["EFFECTS", "Effect"]
