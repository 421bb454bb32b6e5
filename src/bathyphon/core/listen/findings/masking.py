"""Beds and music that cover speech."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.effects import EFFECTS
from bathyphon.core.listen.finding import Check, Command, Cure, Finding, Threshold
from bathyphon.core.listen.material import SPEECH, material_of
from bathyphon.core.listen.mending import add_effect, duck_under
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.loudness import SHORT_TERM, integrated, lufs, sliding
from bathyphon.core.measure.tally import ROWS_A_SECOND, WEIGHTED
from bathyphon.core.reel.model import Track

Flags = NDArray[np.bool_]
ABOVE = Threshold(
    "speech_above_lu", "Speech above the rest", "LU", 4.0, 0.0, 20.0,
    "Speech that lies less than this above all the rest is hard to follow.",
    "common practice: 4 LU at least, 7 to 10 for comfort",
)  # fmt: skip
SPOKEN_LU = 10.0
"""Speech is being spoken where it is at most so far below its own loudness."""
ACTIVE_SHARE = 0.4
MOST_DB = 24.0
CARVED_HZ, CARVED_Q, MOST_CARVED_DB = (350.0, 1200.0, 3500.0), 0.4, 12.0
"""Dips that make room for speech from its body to its consonants, and how deep they may be."""
MARGIN_DB = 2.0
"""A duck needs a moment to give way, and comes back between two words."""


def find(survey: Survey) -> Iterator[Finding]:
    """Stretches in which what else plays comes too close to the speech."""
    limit = survey.threshold(ABOVE.id, ABOVE.value)
    if limit is None or survey.length < 3 * survey.rate:
        return
    heard = [t for t in survey.reel.tracks if survey.is_heard(t) and t.clips]
    spoken = [t for t in heard if material_of(survey, t) == SPEECH]
    others = [t for t in heard if t not in spoken]
    if not spoken or not others:
        return
    whole = (0, survey.length)
    speech = _energy(survey, spoken, whole)
    loudness = integrated(speech)
    if loudness is None:
        return
    active = lufs(speech) > loudness - SPOKEN_LU
    rest = _energy(survey, others, whole)
    found = list(_runs(_close(speech, rest, active, limit)))
    need: dict[str, float] = {}
    places: list[tuple[int, int, float, Track]] = []
    for first, last in found:
        on = np.flatnonzero(active[first:last]) + first
        power = {t.id: float(_rows(survey, t, whole)[on].sum()) for t in others}
        loudest = max(others, key=lambda t: power[t.id])
        spoken_power = float(speech[on].sum())
        places.append((first, last, _db(spoken_power, sum(power.values())), loudest))
        # What the loudest may keep so that all the rest together leaves the speech room.
        room = spoken_power / 10 ** ((limit + 1.0) / 10)
        room -= sum(power.values()) - power[loudest.id]
        depth = _db(power[loudest.id], room) if room > 0 else MOST_DB
        need[loudest.id] = max(need.get(loudest.id, 0.0), min(MOST_DB, depth + MARGIN_DB))
    tenth = survey.rate // ROWS_A_SECOND
    for first, last, ratio, loudest in places:
        yield Finding(
            "masking", first * tenth, min(last * tenth, survey.length),
            f"“{loudest.name or loudest.id}” masks the speech",
            f"Speech is {abs(ratio):.1f} LU {'above' if ratio >= 0 else 'below'} everything else; "
            f"it is easy to follow from {limit:.0f} LU above.",
            min(1.0, 0.5 + (limit - ratio) / 12.0), f"track:{loudest.id}", loudest.id,
            _cure(survey, loudest, spoken[0], need[loudest.id]),
            _carved(survey, loudest, need[loudest.id], lambda after: _clear(after, found, limit)),
            part=str(first // 10),
        )  # fmt: skip


def _cure(survey: Survey, bed: Track, speech: Track, need: float) -> Cure | None:
    if any(e.kind == "duck" and not e.bypass for e in bed.treatment.effects):
        ducks = [e for e in bed.treatment.effects if e.kind == "duck" and not e.bypass]
        now = ducks[0].params.get("range_db", EFFECTS["duck"].table.parameters[0].default)
        if not isinstance(now, (int, float)) or now + need > 60:
            return None
        command: Command = {
            "kind": "set_effect", "owner": f"track:{bed.id}", "id": ducks[0].id,
            "params": {"range_db": round(now + need, 1)},
        }  # fmt: skip
        return Cure(f"Duck it {need:.0f} dB deeper", (command,))
    depth = max(3.0, need)
    duck = duck_under(survey, bed, speech, depth)
    return Cure(f"Duck it {depth:.0f} dB under “{speech.name or speech.id}”", (duck,))


def _carved(
    survey: Survey, bed: Track, need: float, clear: Callable[[Survey], bool]
) -> Cure | None:
    """A dip where speech lives, if that alone leaves it room; the bed keeps its depth and air."""
    for db in (need, 1.6 * need):
        if db > MOST_CARVED_DB:
            break
        band = {"type": "peak", "gain_db": -round(db, 1), "q": CARVED_Q}
        bands = [band | {"freq_hz": hz} for hz in CARVED_HZ]
        command = add_effect(survey, f"track:{bed.id}", "eq", {"bands": bands})
        if clear(survey.after(command)):
            return Cure(f"Carve {db:.0f} dB out of it for the speech", (command,))
    return None


def _clear(survey: Survey, places: list[tuple[int, int]], limit: float) -> bool:
    """Whether the speech is followed easily at places, in tenths of a second."""
    heard = [t for t in survey.reel.tracks if survey.is_heard(t) and t.clips]
    spoken = [t for t in heard if material_of(survey, t) == SPEECH]
    others = [t for t in heard if t not in spoken]
    tenth = survey.rate // ROWS_A_SECOND
    for first, last in places:
        bounds = first * tenth, min(last * tenth, survey.length)
        speech, rest = (_energy(survey, tracks, bounds) for tracks in (spoken, others))
        loudness = integrated(speech)
        if loudness is None:
            continue
        active = lufs(speech) > loudness - SPOKEN_LU
        if _close(speech, rest, active, limit).any():
            return False
    return True


def _rows(survey: Survey, track: Track, bounds: tuple[int, int]) -> Floats:
    return survey.rows(*bounds, survey.track_node(track))[:, WEIGHTED]


def _energy(survey: Survey, tracks: list[Track], bounds: tuple[int, int]) -> Floats:
    return np.asarray(np.sum([_rows(survey, t, bounds) for t in tracks], axis=0))


def _close(speech: Floats, rest: Floats, active: Flags, limit: float) -> Flags:
    """For each tenth whether the three seconds around it are spoken, and the rest too close."""
    share = sliding(active.astype(np.float64), SHORT_TERM)
    spoken = sliding(np.where(active, speech, 0.0), SHORT_TERM)
    under = sliding(np.where(active, rest, 0.0), SHORT_TERM)
    with np.errstate(divide="ignore"):
        ratio = 10 * np.log10((spoken + 1e-12) / (under + 1e-12))
    bad = (share >= ACTIVE_SHARE) & (ratio < limit)
    whole = np.zeros(speech.size, bool)
    for k in np.flatnonzero(bad):
        whole[k : k + SHORT_TERM] = True
    return whole


def _db(power: float, other: float) -> float:
    return float(10 * np.log10((power + 1e-12) / (other + 1e-12)))


def _runs(flags: Flags) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[False], flags, [False]]).astype(np.int8)))
    return [(int(a), int(b)) for a, b in edges.reshape(-1, 2)]


CHECK = Check(
    "masking", "Masked speech",
    "Music and beds that come close to the speech make it hard to follow, first of all for those "
    "who hear badly or listen by small loudspeakers.",
    find, (ABOVE,), 30,
)  # fmt: skip
