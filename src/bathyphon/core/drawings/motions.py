"""Movement: paths around the head, sides, swings of level and pitch."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.curves import Curve
from bathyphon.core.drawings.held import answer, held, value
from bathyphon.core.drawings.model import MOST_POINTS, Axis, Drawing, Grip, Line, Mark, line
from bathyphon.core.effects.base import Effect, Settings
from bathyphon.core.effects.orbit import later_by, shadow_db
from bathyphon.core.effects.vibrato import excursion, swing_of

SWINGS = 3.0
RING_TONE_HZ = 440.0


def orbit(effect: Effect, settings: Settings, at: int) -> Drawing:
    """The path over its owner's length, seen from above, and where the sound is now."""
    length = settings.length or 1
    moves = settings.curves["azimuth"].moves or settings.curves["distance"].moves
    now = held(settings, at)
    azimuth, distance = value(now, "azimuth"), value(now, "distance")
    lines: list[Line] = []
    reach = distance
    if moves:
        # Single samples: the owner may be two hours long.
        places = np.linspace(0, length - 1, MOST_POINTS).astype(int).tolist()
        angle, far = (
            np.array([settings.values(id, place, 1)[0] for place in places])
            for id in ("azimuth", "distance")
        )
        angle = np.radians(angle)
        reach = max(reach, float(far.max()))
        lines.append(line(far * np.sin(angle), far * np.cos(angle)))
    turn = np.radians(np.linspace(0.0, 360.0, 73))
    head = 0.09 * reach
    lines.append(line(head * np.sin(turn), head * np.cos(turn), "guide"))
    nose = np.array([-0.3, 0.0, 0.3]) * head
    lines.append(line(nose, np.array([0.95, 1.35, 0.95]) * head, "guide"))
    x, y = distance * np.sin(np.radians(azimuth)), distance * np.cos(np.radians(azimuth))
    later = float(later_by(np.array([azimuth]))[0]) * 1000.0
    ear = "left" if later > 0.0 else "right"
    shade = float(shadow_db(np.array([azimuth]))[0])
    facts = ["Both ears alike"]
    if abs(later) > 0.005:
        facts = [f"The {ear} ear hears {abs(later):.2f} ms later and {shade:.0f} dB duller"]
    grips: tuple[Grip, ...] = ()
    if not moves:
        grips = (Grip(float(x), float(y), "Direction and distance", "azimuth", "distance"),)
    edge = 1.15 * reach
    return Drawing(
        Axis("Right", "m", -edge, edge),
        Axis("Front", "m", -edge, edge),
        tuple(lines),
        (Mark(float(x), float(y), "now"),),
        grips,
        tuple(facts),
        round=True,
    )


def pan(effect: Effect, settings: Settings) -> Drawing:
    """Levels of both sides along the way from left to right, and where the sound is now."""
    place = np.linspace(-100.0, 100.0, 81)
    rows = []
    for p in place:
        there = replace(settings, curves={**settings.curves, "position": Curve.constant(float(p))})
        rows.append(answer(effect, there, np.ones((2, 1)))[:, 0])
    sides = np.array(rows)
    now = value(settings, "position")
    gains = answer(effect, settings, np.ones((2, 1)))[:, 0]
    facts = tuple(
        f"{word} {20.0 * np.log10(g):+.1f} dB".replace("-", "−") if g > 1e-4 else f"{word} silent"
        for word, g in zip(("Left", "Right"), gains, strict=True)
    )
    return Drawing(
        Axis("Position", "", -100.0, 100.0),
        Axis("Share", "×", 0.0, 1.6),
        (line(place, sides[:, 1], "other", "right"), line(place, sides[:, 0], "result", "left")),
        (Mark(now, float(max(gains)), "now"),),
        (Grip(now, float(max(gains)), "Position", "position"),),
        facts,
    )


def level_swing(effect: Effect, settings: Settings) -> Drawing:
    """Level of both sides over some swings."""
    rate = settings.sample_rate
    seconds = SWINGS / value(settings, "rate_hz")
    y = answer(effect, settings, np.ones((2, round(seconds * rate))))
    step = max(1, y.shape[1] // (2 * MOST_POINTS))
    t = np.arange(0, y.shape[1], step) / rate
    lines = [line(t, y[0, ::step], "result", "left")]
    if not np.allclose(y[0], y[1]):
        lines.insert(0, line(t, y[1, ::step], "other", "right"))
    return Drawing(
        Axis("Time", "s", 0.0, float(f"{seconds:.3g}")), Axis("Level", "×", 0.0, 1.1), tuple(lines)
    )


def pitch_swing(effect: Effect, settings: Settings) -> Drawing:
    """Pitch of both sides over some swings, from the moving delay."""
    rate_hz = value(settings, "rate_hz")
    cents = value(settings, "swing")
    seconds = SWINGS / rate_hz
    t = np.linspace(0.0, seconds, 4 * MOST_POINTS)
    shape = settings.choice("shape")
    reach = excursion(np.array([cents]), np.array([rate_hz]), settings.sample_rate)[0]
    lines = []
    apart = value(settings, "stereo") / 360.0
    for side, style in ((1, "other"), (0, "result")):
        delay = -reach * swing_of(t * rate_hz + side * apart, shape) / settings.sample_rate
        speed = 1.0 - np.gradient(delay, t)
        lines.append(
            line(t[::2], 1200.0 * np.log2(np.maximum(speed[::2], 0.1)), style)  # type: ignore[arg-type]
        )
    high = max(10.0, 1.3 * cents)
    return Drawing(
        Axis("Time", "s", 0.0, float(f"{seconds:.3g}")),
        Axis("Pitch", "cents", -high, high),
        tuple(lines if apart else lines[1:]),
    )


def ring(effect: Effect, settings: Settings) -> Drawing:
    """What becomes of a tone of 440 Hz: two others, above and below it."""
    rate = settings.sample_rate
    t = np.arange(rate) / rate
    tone = np.sin(2.0 * np.pi * RING_TONE_HZ * t)
    window = np.hanning(rate)
    found = np.abs(np.fft.rfft(answer(effect, settings, np.stack([tone, tone]))[0] * window))
    level = 20.0 * np.log10(np.maximum(found * 4.0 / rate, 1e-6))
    peaks = [
        k
        for k in range(2, level.size - 2)
        if level[k] > -50.0 and level[k] == level[k - 2 : k + 3].max()
    ]
    marks = tuple(Mark(float(k), float(level[k]), f"{k} Hz") for k in peaks[:12])
    before = (Mark(RING_TONE_HZ, 0.0, "before", "before"),)
    words = ", ".join(f"{m.x:.0f} Hz" for m in marks)
    return Drawing(
        Axis("Frequency", "Hz", 20.0, 20000.0, "log"),
        Axis("Level", "dB", -50.0, 6.0),
        marks=before + marks,
        facts=(f"A tone of 440 Hz becomes {words}",),
    )
