"""Treatments that make their span louder or quieter, without being there for that."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.effects import EFFECTS
from bathyphon.core.listen.finding import Check, Command, Cure, Finding, Threshold
from bathyphon.core.listen.mending import HIGHEST_DB, gain_after
from bathyphon.core.listen.survey import Owner, Survey
from bathyphon.core.measure.levels import louder_by
from bathyphon.core.reel.model import Treatment
from bathyphon.core.words import signed

CHANGE = Threshold(
    "level_change_lu", "Louder or quieter", "LU", 3.0, 0.5, 20.0,
    "A treatment that changes the loudness of its span by more than this is pointed out, unless "
    "level is what its effects are for.",
    "common practice: 3 dB is plainly heard as another level",
)  # fmt: skip
SHORTEST_SECONDS = 0.4
MOST_TRIES, NEAR_LU = 5, 0.1


def find(survey: Survey) -> Iterator[Finding]:
    """Treatments that change the loudness of what they are on."""
    most = survey.threshold(CHANGE.id, CHANGE.value)
    if most is None:
        return
    for owner in survey.owners():
        change = None if _meant(owner) else change_of(survey, owner)
        if change is None or abs(change) <= most:
            continue
        word = "louder" if change > 0 else "quieter"
        yield Finding(
            "level_change", owner.start, owner.stop,
            f"“{owner.label}” makes it {abs(change):.1f} dB {word}",
            f"Treated and untreated differ by {signed(change)} LU over the span: what is louder "
            "sounds better at first, whatever the effect does.",
            min(1.0, 0.5 + (abs(change) - most) / 6.0), owner.name,
            owner.track_id,
            Cure("Match its loudness", (matching_gain(survey, owner, change),)),
        )  # fmt: skip


def change_of(survey: Survey, owner: Owner) -> float | None:
    """By how many LU a treatment makes its span louder; None where that cannot be said."""
    if owner.node is None:
        return None
    start, stop = owner.start, min(owner.stop, survey.length)
    if isinstance(owner.chain, Treatment):
        # On its way in and out it is only partly there.
        start += owner.chain.ramp_in.length
        stop -= owner.chain.ramp_out.length
    if stop - start < SHORTEST_SECONDS * survey.rate:
        return None
    after = survey.rows(start, stop, owner.node)
    return louder_by(after, survey.rows(start, stop, owner.node.source))


def matching_gain(survey: Survey, owner: Owner, change: float) -> Command:
    """The gain after a treatment that makes it as loud as untreated.

    Where its strength is not 100 %, or part of the sound goes past the chain, a dB of gain changes
    less than a dB: it is looked for by the secant.
    """
    db, slope, left = 0.0, 1.0, change
    for _ in range(MOST_TRIES):
        before, db = db, max(-60.0, min(HIGHEST_DB, db - left / slope))
        command = gain_after(survey, owner, db)
        tried = survey.after(command)
        found = next((o for o in tried.owners() if o.name == owner.name), owner)
        now = change_of(tried, found)
        if now is None or abs(now) < NEAR_LU or db == before:
            break
        slope = max(0.05, (now - left) / (db - before))
        left = now
    return command


def _meant(owner: Owner) -> bool:
    """Whether some effect of it is there for its level, or its strength moves."""
    kinds = [e.kind for e in owner.chain.effects if not e.bypass]
    return any(EFFECTS[kind].table.for_level for kind in kinds if kind in EFFECTS)


CHECK = Check(
    "level_change", "Louder or quieter than untreated",
    "Most effects change loudness by the way. Matching it lets one judge the effect itself, and "
    "keeps the scene at its level.",
    find, (CHANGE,), 20,
)  # fmt: skip
