"""Sound that has slipped against its picture."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.listen.finding import Check, Cure, Finding, Threshold
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.sync import NOTICED, offsets

LATE = Threshold(
    "sync_late_ms", "Late by", "ms", NOTICED[1], 1.0, 500.0,
    "Sound that comes later than its picture by more than this is noticed.",
    "ITU-R BT.1359-1 (from memory)",
)  # fmt: skip
EARLY = Threshold(
    "sync_early_ms", "Early by", "ms", NOTICED[0], 1.0, 500.0,
    "Sound that comes before its picture by more than this is noticed.",
    "ITU-R BT.1359-1 (from memory)",
)  # fmt: skip


def find(survey: Survey) -> Iterator[Finding]:
    """Clips that belong to the picture and are out of step with it."""
    late, early = (survey.threshold(t.id, t.value) for t in (LATE, EARLY))
    found = offsets(survey.reel)
    for track, clip in survey.clips():
        offset = found.get(clip.id)
        if offset is None:
            continue
        ms = float(offset["ms"])
        most = late if ms > 0 else early
        if most is None or abs(ms) <= most:
            continue
        # What drifts for its speed is not mended by moving it.
        drifts = abs(offset["begins"] - offset["ends"]) > 0.5
        cure = Cure("Bring it back into sync", ({"kind": "sync_clips", "ids": [clip.id]},))
        yield Finding(
            "out_of_sync", clip.start, clip.end,
            f"“{survey.name_of_clip(clip)}” is out of step with its picture",
            f"It is {abs(ms):.0f} ms {'late' if ms > 0 else 'early'}, which is noticed from "
            f"{most:.0f} ms on{'; its speed makes it drift' if drifts else ''}.",
            min(1.0, abs(ms) / (2.0 * most)), f"clip:{clip.id}", track.id,
            None if drifts else cure,
        )  # fmt: skip


CHECK = Check(
    "out_of_sync", "Out of step with the picture",
    "Lips and steps are noticed sooner when the sound is early than when it is late.",
    find, (LATE, EARLY), 60,
)  # fmt: skip
