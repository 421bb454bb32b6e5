"""Level against level: what comes out for what goes in, and gain over time on the sound itself."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.drawing.held import answer, value
from bathyphon.core.effects.kit.drawing.model import (
    MOST_POINTS,
    Axis,
    Drawing,
    Grip,
    Line,
    decibels,
    line,
)
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.words import signed

STEP_DB = 2.0
LOWEST_DB = -60.0
HEARD_DB = -90.0
TONE_HZ = 480.0
SETTLE_SECONDS, LISTEN_SECONDS = 0.6, 0.1
WAVE_HZ = 60.0
IN = Axis("In", "dB", LOWEST_DB, 0.0)
OUT = Axis("Out", "dB", LOWEST_DB, 12.0)


def levels(view: View) -> Drawing:
    """Steady tones from quiet to loud, and how loud they come out; beneath, the sound over time."""
    effect, settings, sound = view.effect, view.now, view.sound
    rate = settings.sample_rate
    into = np.arange(LOWEST_DB, STEP_DB / 2.0, STEP_DB)
    settle, listen = round(SETTLE_SECONDS * rate), round(LISTEN_SECONDS * rate)
    tone = np.sin(2.0 * np.pi * TONE_HZ * np.arange(settle + listen) / rate)
    out = np.empty(into.size)
    for k, level in enumerate(into):
        y = answer(effect, settings, np.stack([tone, tone]) * 10.0 ** (level / 20.0))
        out[k] = decibels(np.array([np.sqrt(2.0 * np.mean(y[0, settle:] ** 2))]))[0]
    lines: list[Line] = [line(np.array([LOWEST_DB, 0.0]), np.array([LOWEST_DB, 0.0]), "guide")]
    facts = []
    if sound is not None and sound.any():
        held_back = answer(effect, settings, sound)
        step = max(1, sound.shape[1] // 400)
        took = _loudness(held_back, step) - _loudness(sound, step)
        heard = _loudness(sound, step) > LOWEST_DB
        if heard.any():
            most = float(took[heard].min())
            facts.append(f"Takes up to {max(0.0, -most):.1f} dB from this sound")
    lines.append(line(into, np.maximum(out, LOWEST_DB)))
    grips = []
    for id in ("threshold_db", "ceiling_db"):
        parameter = effect.parameter(id)
        if parameter:
            at = value(settings, id)
            y_at = float(np.interp(at, into, out))
            grips.append(Grip(max(at, LOWEST_DB), y_at, parameter.label, id))
    beneath = over_time(view) if sound is not None and sound.any() else None
    return Drawing(IN, OUT, tuple(lines), grips=tuple(grips), facts=tuple(facts), beneath=beneath)


def over_time(view: View) -> Drawing:
    """How far a sound is turned down or up, moment by moment, over what decides it.

    What decides is the sound itself, or what the effect listens to, such as a voice that music
    gives way to.
    """
    effect, settings, sound, side = view.effect, view.now, view.sound, view.side
    assert sound is not None
    step = max(1, sound.shape[1] // MOST_POINTS)
    before = _loudness(sound, step)
    took = _loudness(answer(effect, settings, sound, side), step) - before
    decides = before if side is None else _loudness(side, step)
    # Where nothing sounds there is nothing to turn down.
    took = np.where(before > HEARD_DB, took, 0.0)
    half = 0.5 * sound.shape[1] / settings.sample_rate
    t = np.linspace(-half, half, took.size)
    names = ("level", "change") if side is None else ("the other track", "this one")
    return Drawing(
        Axis("Time", "s", -half, half),
        Axis("Level", "dB", LOWEST_DB, 12.0),
        (
            line(t, np.clip(decides, LOWEST_DB, 12.0), "before", names[0]),
            line(np.array([0.0, 0.0]), np.array([LOWEST_DB, 12.0]), "guide"),
            line(t, np.clip(took, LOWEST_DB, 12.0), "result", names[1]),
        ),
        facts=(f"At most {float(np.abs(took).max()):.1f} dB, around the playhead",),
    )


def _loudness(sound: Floats, step: int) -> Floats:
    count = sound.shape[1] // step
    power = np.mean(sound[:, : count * step].reshape(2, count, step) ** 2, axis=(0, 2))
    return decibels(np.sqrt(2.0 * power))


def transfer(view: View) -> Drawing:
    """A slow full wave in, and what becomes of it: the transfer curve of what bends it."""
    effect, settings = view.effect, view.now
    rate = settings.sample_rate
    n = round(rate / WAVE_HZ)
    x = np.sin(2.0 * np.pi * np.arange(3 * n) / n - 0.5 * np.pi)
    y = answer(effect, settings, np.stack([x, x]))[0]
    rising = slice(n, n + n // 2)
    lines = (
        line(np.array([-1.0, 1.0]), np.array([-1.0, 1.0]), "guide"),
        line(x[rising][::2], np.clip(y[rising][::2], -1.5, 1.5)),
    )
    louder = decibels(np.array([np.std(y[n : 2 * n]) / np.std(x[n : 2 * n])]))[0]
    facts = (f"Loud tone: {signed(louder)} dB",)
    return Drawing(Axis("In", "", -1.0, 1.0), Axis("Out", "", -1.5, 1.5), lines, facts=facts)
