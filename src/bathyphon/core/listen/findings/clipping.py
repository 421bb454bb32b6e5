"""Clipping: tops cut off in a recording, a clip or a mix above full scale."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.listen.finding import Check, Command, Cure, Finding, Threshold
from bathyphon.core.listen.mending import add_effect, shifted
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.levels import decibels, over
from bathyphon.core.measure.tally import ROWS_A_SECOND, TRUE_PEAK
from bathyphon.core.reel.model import Keyframes, Movable
from bathyphon.core.words import signed

FLAT_SAMPLES, FLAT, CORNER, LOUD = 4, 2e-5, 0.004, 0.5
"""So many samples in a row that differ by no more than that share of the top, with a corner beside
them that no curve of a low tone has, in a sound that is at least that loud."""
FEWEST = 3
LIMITED_DB = 4.0
"""Excess up to which a limiter takes the peaks off unheard (common practice)."""
OVER = Threshold(
    "clip_dbtp", "Clipping", "dBTP", 0.0, -6.0, 6.0,
    "A mix whose true peak lies above this is cut off when it is exported.",
    "ITU-R BS.1770-4, annex 2: full scale is 0 dBTP (from memory)",
)  # fmt: skip


def find(survey: Survey) -> Iterator[Finding]:
    """Recordings with flat tops, clips raised above full scale, the mix above it."""
    yield from _recordings(survey)
    yield from _clips(survey)
    yield from _mix(survey)


def flat_tops(x: Floats) -> list[int]:
    """Places where the tops of a sound are cut off.

    Parameters
    ----------
    x : ndarray, shape (n,)
        One side, about a second of it.

    Returns
    -------
    list of int
        First sample of each flat top.
    """
    top = float(np.abs(x).max(initial=0.0))
    if top < LOUD:
        return []
    still = np.abs(np.diff(x)) <= FLAT * top
    high = np.abs(x) >= 0.9 * top
    run = still & high[1:] & high[:-1]
    edges = np.flatnonzero(np.diff(np.concatenate([[False], run, [False]]).astype(np.int8)))
    found = []
    for a, b in edges.reshape(-1, 2):
        if b - a + 1 < FLAT_SAMPLES:
            continue
        level = abs(x[a])
        before = abs(x[max(0, a - 2)])
        after = abs(x[min(x.size - 1, b + 2)])
        if min(before, after) < (1.0 - CORNER) * level:
            found.append(int(a))
    return found


def _recordings(survey: Survey) -> Iterator[Finding]:
    rate = survey.rate
    for track, clip in survey.clips():
        if not clip.speed.plain:
            continue
        first, last, count = None, 0, 0
        for start in range(clip.source_start, clip.source_start + clip.length, rate):
            stop = min(start + rate, clip.source_start + clip.length)
            sound = survey.media.read(clip.media, start, stop).astype(np.float64)
            tops = [place for side in sound for place in flat_tops(side)]
            if len(tops) >= FEWEST:
                count += len(tops)
                at = clip.start + start - clip.source_start
                first = at + min(tops) if first is None else first
                last = at + max(tops)
        if first is not None:
            yield Finding(
                "clipping", first, last + 1,
                f"“{survey.name_of_clip(clip)}” was recorded too loud",
                f"{count} of its tops are cut off flat; turning it down does not bring them back. "
                "Use another take, or soften it with a high cut.",
                min(1.0, 0.5 + count / 20.0), f"clip:{clip.id}", track.id, part="recorded",
            )  # fmt: skip


def _clips(survey: Survey) -> Iterator[Finding]:
    """Clips whose own level lifts them above full scale: what treats them gets too much."""
    limit = survey.threshold(OVER.id, OVER.value)
    if limit is None:
        return
    for track, clip in survey.clips():
        if _loudest(clip.gain_db) <= 0.0:
            continue
        node = survey.clip_node(clip)
        if node is None:
            continue
        rows = survey.rows(clip.start, clip.end, node)
        peak = decibels(float(rows[:, TRUE_PEAK].max())) or 0.0
        if peak <= limit:
            continue
        places = over(rows, limit)
        tenth = survey.rate // ROWS_A_SECOND
        first = max(0, clip.start) // tenth
        down = peak - limit + 1.0
        command: Command = {
            "kind": "set_clip", "id": clip.id, "gain_db": shifted(clip.gain_db, -down),
        }  # fmt: skip
        yield Finding(
            "clipping", (first + places[0][0]) * tenth,
            min((first + places[-1][1]) * tenth, clip.end),
            f"“{survey.name_of_clip(clip)}” is raised above full scale",
            f"Its own level lifts its true peak to {signed(peak)} dBTP; effects and the mix get "
            "too "
            "much of it.",
            min(1.0, 0.6 + (peak - limit) / 12.0), f"clip:{clip.id}", track.id,
            Cure(f"Turn the clip down by {down:.1f} dB", (command,)), part="raised",
        )  # fmt: skip


def _loudest(gain: Movable) -> float:
    if isinstance(gain, Keyframes):
        return max((k.value for k in gain.keyframes), default=0.0)
    return gain


def _mix(survey: Survey) -> Iterator[Finding]:
    limit = survey.threshold(OVER.id, OVER.value)
    if limit is None:
        return
    rows = survey.rows(0, survey.length)
    places = over(rows, limit)
    if not places:
        return
    peak = decibels(float(rows[:, TRUE_PEAK].max())) or 0.0
    first, last = places[0][0], places[-1][1]
    tenth = survey.rate // ROWS_A_SECOND
    many = f" in {len(places)} places" if len(places) > 1 else ""
    yield Finding(
        "clipping", first * tenth, min(last * tenth, survey.length),
        f"The mix clips{many}",
        f"Its true peak is {signed(peak)} dBTP; what lies above full scale is cut off in the "
        "export.",
        1.0, "mix", cure=Cure(*_lowered(survey, peak - limit)), part="mix",
    )  # fmt: skip


def _lowered(survey: Survey, excess: float) -> tuple[str, tuple[Command, ...]]:
    """A limiter where that is not heard, else a lower level."""
    mix = survey.reel.mix
    raised = mix.gain_db if not isinstance(mix.gain_db, Keyframes) else None
    has_one = any(e.kind == "limit" and not e.bypass for e in mix.treatment.effects)
    if excess <= LIMITED_DB and raised is not None and not has_one and -20.0 <= -1.0 - raised <= 0:
        params = {"ceiling_db": round(-1.0 - raised, 1)}
        return "Put a limiter on the mix", (add_effect(survey, "mix", "limit", params),)
    level = shifted(mix.gain_db, -(excess + 1.0))
    return (
        f"Turn the mix down by {excess + 1.0:.1f} dB",
        ({"kind": "set_mix", "gain_db": level},),
    )


CHECK = Check(
    "clipping", "Clipping",
    "Peaks above full scale are cut off flat, which crackles. In the mix a lower level or a "
    "limiter helps; in a recording nothing brings back what is gone.",
    find, (OVER,), 10,
)  # fmt: skip
