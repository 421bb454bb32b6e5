"""Sound that cancels itself where both sides come from one loudspeaker."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.listen.finding import Check, Command, Cure, Finding, Threshold
from bathyphon.core.listen.mending import add_effect
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.tally import BOTH, LEFT, RIGHT, ROWS_A_SECOND, WEIGHTED
from bathyphon.core.reel.model import Clip

LOSS = Threshold(
    "mono_loss_db", "Lost in mono", "dB", 6.0, 1.0, 30.0,
    "Sound that loses more than this when both sides are added up has trouble in mono.",
    "common practice: two sides without anything in common lose 3 dB",
)  # fmt: skip
WINDOW_SECONDS = 1.0
SHARE = 0.5
QUIETEST_DBFS = -60.0
TURNED_OVER = -0.6
"""Correlation below which one side is the other one turned over."""


def find(survey: Survey) -> Iterator[Finding]:
    """Clips of which too much is lost in mono."""
    limit = survey.threshold(LOSS.id, LOSS.value)
    if limit is None:
        return
    for track, clip in survey.clips():
        node = survey.clip_node(clip)
        if node is None or clip.length < WINDOW_SECONDS * survey.rate or _mended(clip):
            continue
        rows = survey.rows(clip.start, clip.end, node)
        lost = losses(rows)
        if not lost.size or np.mean(lost > limit) < SHARE:
            continue
        typical = float(np.median(lost))
        turned, cure = _cure(survey, clip, rows)
        yield Finding(
            "mono", clip.start, clip.end,
            f"“{survey.name_of_clip(clip)}” is nearly lost in mono",
            f"Added up, its two sides lose {min(60.0, typical):.0f} dB"
            + (": one of them is the other turned over." if turned else "."),
            min(1.0, 0.5 + (typical - limit) / 12.0), f"clip:{clip.id}", track.id, cure,
        )  # fmt: skip


def losses(rows: Floats) -> Floats:
    """What is lost in mono, in dB, in each second that is heard.

    The power of (l + r) / √2 against that of both sides: l² + r² + 2·lr against 2·(l² + r²), so
    that equal sides lose nothing and two without anything in common 3 dB.
    """
    width = round(WINDOW_SECONDS * ROWS_A_SECOND)
    whole = rows[: len(rows) // width * width].reshape(-1, width, rows.shape[1]).mean(axis=1)
    both = whole[:, LEFT] + whole[:, RIGHT]
    heard = 10 * np.log10(both / 2 + 1e-20) > QUIETEST_DBFS
    mono = both + 2.0 * whole[:, BOTH]
    lost = 10 * np.log10((2.0 * both + 1e-20) / (np.maximum(mono, 0.0) + 1e-12))
    return np.asarray(lost[heard & (whole[:, WEIGHTED] > 0)])


def _cure(survey: Survey, clip: Clip, rows: Floats) -> tuple[bool, Cure]:
    left, right, both = (float(rows[:, c].sum()) for c in (LEFT, RIGHT, BOTH))
    owner = f"clip:{clip.id}"

    def pan(**params: object) -> tuple[Command, ...]:
        return (add_effect(survey, owner, "pan", dict(params), index=0),)

    if both < TURNED_OVER * np.sqrt(left * right + 1e-20):
        return True, Cure("Turn the right side over", pan(sides="right turned over"))
    middle, side = left + right + 2 * both, left + right - 2 * both
    # Narrowed until its sides are no stronger than its middle, which is what mono keeps.
    width = 100.0 * float(np.sqrt(max(1e-9, middle) / max(1e-9, side)))
    return False, Cure(f"Narrow it to {max(0.0, width):.0f} %", pan(width=round(min(100.0, width))))


def _mended(clip: Clip) -> bool:
    return any(e.kind == "pan" and not e.bypass for e in clip.treatment.effects)


CHECK = Check(
    "mono", "Trouble in mono",
    "Telephones, kitchen radios and one loudspeaker of two add both sides up. What is the same "
    "turned over on the other side vanishes there.",
    find, (LOSS,), 75,
)  # fmt: skip
