"""Speech at a speed that no longer sounds natural."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.listen.finding import Check, Cure, Finding, Threshold
from bathyphon.core.listen.material import SPEECH, material_of
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.model import Keyframes
from bathyphon.core.reel.speed_facts import RUSHED

FAST = Threshold(
    "speech_fast", "Fastest speech", "%", RUSHED, 101.0, 400.0,
    "Speech that plays faster than this sounds rushed.", "common practice",
)  # fmt: skip
SLOW = Threshold(
    "speech_slow", "Slowest speech", "%", 80.0, 10.0, 99.0,
    "Speech that plays slower than this drags.", "common practice",
)  # fmt: skip


def find(survey: Survey) -> Iterator[Finding]:
    """Clips of speech that play too fast or too slow."""
    fast, slow = (survey.threshold(t.id, t.value) for t in (FAST, SLOW))
    for track, clip in survey.clips():
        percent = clip.speed.percent
        if isinstance(percent, Keyframes):
            # A speed that moves is an effect, and meant as one.
            continue
        limit = fast if percent > 100 else slow
        beyond = limit is not None and (percent > limit if percent > 100 else percent < limit)
        if limit is None or not beyond or material_of(survey, track) != SPEECH:
            continue
        yield Finding(
            "hurried", clip.start, clip.end,
            f"“{survey.name_of_clip(clip)}” plays at {percent:.4g} %",
            f"Speech {'sounds rushed above' if percent > 100 else 'drags below'} {limit:.4g} %.",
            min(1.0, 0.5 + abs(percent - limit) / limit), f"clip:{clip.id}", track.id,
            Cure(f"Play it at {limit:.4g} %", (
                {"kind": "set_speed", "ids": [clip.id], "percent": limit},
            )),
        )  # fmt: skip


CHECK = Check(
    "hurried", "Unnatural speed",
    "A line may be pressed into a gap by 10 to 25 %; beyond that one hears that it was.",
    find, (FAST, SLOW), 88,
)  # fmt: skip
