"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

from bathyphon.core.effects.kit.pitch_shift import lowest_ratio
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.speed import latency


def shifted(settings: Settings) -> bool:
    """Whether anything is moved."""
    ids = ("semitones", "cents", "formant_shift", "tune")
    return any(k.value != 0.0 for id in ids for k in settings.curves[id].keyframes)


def lookahead(settings: Settings) -> int:
    """Samples that are waited for; none where nothing is moved."""
    if not shifted(settings):
        return 0
    lowest = lowest_ratio(settings.curves["semitones"], settings.curves["cents"])
    return latency.lookahead(lowest, settings.sample_rate, tuned(settings))


def tuned(settings: Settings) -> bool:
    """Whether notes are drawn towards a scale."""
    return any(k.value != 0.0 for k in settings.curves["tune"].keyframes)
