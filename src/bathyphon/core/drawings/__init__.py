"""Drawings of what an effect does at one moment, found by :func:`draw`."""

from __future__ import annotations

from dataclasses import replace

from bathyphon.core.curves import Floats
from bathyphon.core.drawings import decays, ladders, levels, motions, responses
from bathyphon.core.drawings.held import held
from bathyphon.core.drawings.model import Drawing
from bathyphon.core.drawings.waves import waves
from bathyphon.core.effects.base import Effect, Settings

SWEPT = ("muffle", "telephone", "tone", "eq", "flanger", "chorus", "phaser")
ROOMS = ("reverb", "space")
DYNAMIC = ("compress", "limit", "gate")
BENDING = ("drive", "crush", "gain")


def draw(
    effect: Effect,
    settings: Settings,
    at: int,
    sound: Floats | None = None,
    side: Floats | None = None,
) -> Drawing | None:
    """What an effect does at a sample of its owner.

    Parameters
    ----------
    effect : Effect
    settings : Settings
        With its owner's length.
    at : int
        Sample from the owner's start; moving parameters are taken from there.
    sound : ndarray of float64, shape (2, n), optional
        What is treated around there.
    side : ndarray of float64, shape (2, n), optional
        What the effect listens to there.

    Returns
    -------
    Drawing or None
        None for an effect that nothing but words could show.
    """
    now = held(settings, at)
    if effect.id in SWEPT:
        return responses.response(effect, now, sound)
    if effect.id in ROOMS:
        return decays.decay(effect, now)
    if effect.id == "echo":
        return decays.echoes(effect, now)
    if effect.id in DYNAMIC:
        drawing = levels.levels(effect, now, sound)
        if sound is None or not sound.any():
            return drawing
        return replace(drawing, beneath=levels.over_time(effect, now, sound))
    if effect.id == "duck":
        if sound is None or side is None or not side.any():
            return None
        return levels.over_time(effect, now, sound, side)
    if effect.id in BENDING:
        return levels.curve(effect, now)
    if effect.id == "pitch":
        return ladders.pitch(effect, now)
    if effect.id == "harmony":
        return ladders.voices(effect, now)
    if effect.id == "orbit":
        return motions.orbit(effect, settings, at)
    if effect.id == "pan":
        return motions.pan(effect, now)
    if effect.id == "tremolo":
        return motions.level_swing(effect, now)
    if effect.id == "vibrato":
        return motions.pitch_swing(effect, now)
    if effect.id == "ring":
        return motions.ring(effect, now)
    return None


__all__ = ["Drawing", "draw", "waves"]
