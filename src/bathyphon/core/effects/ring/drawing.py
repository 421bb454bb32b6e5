"""What becomes of a tone."""

from __future__ import annotations

import numpy as np

from bathyphon.core.effects.kit.drawing.held import answer
from bathyphon.core.effects.kit.drawing.model import Axis, Drawing, Mark
from bathyphon.core.effects.kit.drawing.view import View

RING_TONE_HZ = 440.0


def draw(view: View) -> Drawing:
    """What becomes of a tone of 440 Hz: two others, above and below it."""
    effect, settings = view.effect, view.now
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
