"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

from bathyphon.core.effects.kit.pitch_shift import lowest_ratio
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.speed import latency
from bathyphon.core.speed.change import NO_SHIFT
from bathyphon.core.timing.curves import Curve


def row_id(index: int, id: str) -> str:
    return f"voices.{index}.{id}"


def degree_of(settings: Settings, index: int) -> int:
    return int(settings.fixed(row_id(index, "degree")))


def note_of_voice(settings: Settings, index: int) -> int | None:
    """The note that a voice keeps to, 0 for C; none where it goes along."""
    chosen = settings.choice(row_id(index, "note"))
    return chosen - 1 if chosen else None


def moved_by(settings: Settings, index: int) -> tuple[Curve, Curve]:
    """Semitones and cents; a voice that keeps to a note is not moved from it by semitones."""
    curves = settings.curves
    own = curves[row_id(index, "semitones")] if note_of_voice(settings, index) is None else NO_SHIFT
    return own, curves[row_id(index, "cents")]


def follows_pitch(settings: Settings, index: int) -> bool:
    return degree_of(settings, index) != 0 or note_of_voice(settings, index) is not None


def is_shifted(settings: Settings, index: int) -> bool:
    if follows_pitch(settings, index):
        return True
    return any(k.value != 0.0 for c in moved_by(settings, index) for k in c.keyframes)


def lookahead(settings: Settings) -> int:
    """Samples that are waited for: as many as the lowest voice needs."""
    needed = [
        latency.lookahead(
            lowest_ratio(*moved_by(settings, i)),
            settings.sample_rate,
            follows_pitch(settings, i),
        )
        for i in range(settings.entries("voices"))
        if is_shifted(settings, i)
    ]
    return max(needed, default=0)


def delay_of(settings: Settings, index: int) -> int:
    """Samples by which a voice comes after the direct sound."""
    frames = settings.fixed(row_id(index, "delay_frames")) / settings.frame_rate
    seconds = frames + settings.fixed(row_id(index, "delay_ms")) / 1000.0
    return round(seconds * settings.sample_rate)


def lasts(settings: Settings) -> int:
    """Samples until the latest voice has ended."""
    voices = range(settings.entries("voices"))
    return max((delay_of(settings, i) for i in voices), default=0)
