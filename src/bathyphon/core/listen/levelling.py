"""Levels in one step: what is there is measured, and becomes gains, keyframes or effects."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.errors import Refused
from bathyphon.core.listen.finding import Command, Cure
from bathyphon.core.listen.findings.level_change import change_of, matching_gain
from bathyphon.core.listen.material import SPEECH, material_of
from bathyphon.core.listen.mending import duck_under, shifted
from bathyphon.core.listen.survey import Owner, Survey
from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.loudness import integrated, lufs, sliding
from bathyphon.core.measure.tally import ROWS_A_SECOND, WEIGHTED
from bathyphon.core.reel.model import Clip, Keyframes, Movable, Track
from bathyphon.core.words import signed

PHRASE_LU = 20.0
"""Speech is heard where it is at most so far below its own loudness."""
SHORTEST_PHRASE, PAUSE = 3, 3
"""Tenths of a second that a phrase lasts at least, and that part two of them."""
MOST_LIFTED_DB = 9.0
GLIDE_SECONDS = 0.08
LEAST_DB = 0.05


def match_untreated(survey: Survey, name: str) -> Cure:
    """Let a treatment come out as loud as what goes in."""
    owner = _owner(survey, name)
    change = change_of(survey, owner)
    if change is None:
        raise Refused(f"“{owner.label}” cannot be compared: it is silent, or too short", "of")
    label = f"Match “{owner.label}” to untreated"
    return _done(change, label, matching_gain(survey, owner, change))


def match_part(survey: Survey, name: str, other: str) -> Cure:
    """Give a clip or a track the loudness of another."""
    wanted = _loudness(survey, other)
    return to_loudness(survey, name, wanted, f"the loudness of “{_label(survey, other)}”")


def match_neighbour(survey: Survey, id: str) -> Cure:
    """Give a clip the loudness of the one before it on its track, or else of the one behind it."""
    track, clip = _clip(survey, id)
    others = [c for c in track.clips if c.enabled and c.id != clip.id]
    before = max((c for c in others if c.start < clip.start), key=lambda c: c.end, default=None)
    behind = min((c for c in others if c.start > clip.start), key=lambda c: c.start, default=None)
    neighbour = before or behind
    if neighbour is None:
        raise Refused("this clip has no neighbour on its track", "of")
    return match_part(survey, f"clip:{id}", f"clip:{neighbour.id}")


def to_loudness(survey: Survey, name: str, wanted: float, what: str = "") -> Cure:
    """Set the level of a clip, a track or the mix so that it has a loudness, in LUFS."""
    change = wanted - _loudness(survey, name)
    label = f"Set “{_label(survey, name)}” to {what or f'{wanted:.1f} LUFS'}"
    return _done(change, label, _raised(survey, name, change))


def normalise(survey: Survey, name: str, peak: float = -1.0) -> Cure:
    """Set the level of a clip, a track or the mix so that its true peak is there, in dBTP."""
    top = levels_of(_rows(survey, name)).true_peak
    if top is None:
        raise Refused(f"“{_label(survey, name)}” is silent: it has no peak", "of")
    # Rounded down, so that it stays below.
    change = np.floor((peak - top) * 100.0) / 100.0
    label = f"Normalise “{_label(survey, name)}” to {signed(peak)} dBTP"
    return _done(float(change), label, _raised(survey, name, float(change)))


def set_alike(survey: Survey, names: list[str]) -> Cure:
    """Give clips or tracks the same loudness: the middle one's."""
    found = {name: _loudness(survey, name) for name in names}
    if len(found) < 2:
        raise Refused("select at least two clips to set them alike", "of")
    wanted = sorted(found.values())[len(found) // 2]
    commands = [
        _raised(survey, name, wanted - level)
        for name, level in found.items()
        if abs(wanted - level) > LEAST_DB
    ]
    return Cure(f"Set {len(found)} alike, at {wanted:.1f} LUFS", tuple(commands))


def dip_under_speech(survey: Survey, id: str, db: float = 8.0) -> Cure:
    """Let a track give way to the speech."""
    bed = _track(survey, id)
    spoken = [
        t for t in survey.reel.tracks if t.id != id and material_of(survey, t) == SPEECH and t.clips
    ]
    if not spoken:
        raise Refused("no other track carries speech; say which does in its sheet", "of")
    under = spoken[0].name or spoken[0].id
    command = duck_under(survey, bed, spoken[0], db)
    return Cure(f"Dip “{bed.name or bed.id}” by {db:.0f} dB under “{under}”", (command,))


def even_out(survey: Survey, id: str, only_up: bool = False) -> Cure:
    """Bring the phrases of a spoken clip to one loudness, or only raise the quiet ones.

    Its level gets keyframes, which glide in the pauses.
    """
    _, clip = _clip(survey, id)
    if isinstance(clip.gain_db, Keyframes):
        raise Refused("the level of this clip moves already: take its keyframes away first", "of")
    rows = _rows(survey, f"clip:{id}")
    gains = phrase_gains(rows[:, WEIGHTED], only_up)
    moved = [gain for gain in gains if abs(gain[2]) > 0.3]
    word = "Raise the quiet words of" if only_up else "Even out"
    label = f"{word} “{survey.name_of_clip(clip)}”"
    if not moved:
        return Cure(f"{label}: it is even already", ())
    keys = _keyframes(survey, clip, gains)
    return Cure(label, ({"kind": "set_clip", "id": id, "gain_db": {"keyframes": keys}},))


def phrase_gains(energies: Floats, only_up: bool = False) -> list[tuple[int, int, float]]:
    """Phrases, in tenths of a second, with the gain in dB that brings each to the middle loudness.

    Parameters
    ----------
    energies : ndarray of float64, shape (n,)
        K-weighted power of each tenth.
    only_up : bool
        Leave alone what is loud.
    """
    loudness = integrated(energies)
    if loudness is None:
        return []
    smooth = sliding(np.concatenate([[0.0], energies, [0.0]]), 3)
    heard = lufs(smooth) > loudness - PHRASE_LU
    edges = np.flatnonzero(np.diff(np.concatenate([[False], heard, [False]]).astype(np.int8)))
    runs = [[int(a), int(b)] for a, b in edges.reshape(-1, 2)]
    phrases: list[list[int]] = []
    for run in runs:
        if phrases and run[0] - phrases[-1][1] < PAUSE:
            phrases[-1][1] = run[1]
        else:
            phrases.append(run)
    found = [
        (a, b, float(lufs(energies[a:b].mean()))) for a, b in phrases if b - a >= SHORTEST_PHRASE
    ]
    if not found:
        return []
    middle = float(np.median([level for _, _, level in found]))
    least = 0.0 if only_up else -MOST_LIFTED_DB
    return [(a, b, float(np.clip(middle - level, least, MOST_LIFTED_DB))) for a, b, level in found]


def _keyframes(
    survey: Survey, clip: Clip, gains: list[tuple[int, int, float]]
) -> list[dict[str, object]]:
    """Each phrase at its level, and a glide in the pause before it."""
    assert not isinstance(clip.gain_db, Keyframes)
    tenth = survey.rate / ROWS_A_SECOND
    # Rows lie on the reel's tenths, keyframes count from the clip's start.
    shift = round(clip.start / tenth) * tenth - clip.start
    glide = round(GLIDE_SECONDS * survey.rate)
    keys: list[dict[str, object]] = []
    for first, last, gain in gains:
        level = round(float(clip.gain_db) + gain, 2)
        a, b = round(first * tenth + shift), round(last * tenth + shift)
        start = max(0, a - glide)
        if keys and start <= int(str(keys[-1]["at"])):
            start = int(str(keys[-1]["at"])) + 1
        keys.append({"at": start, "value": level, "ease": "hold"})
        keys.append({"at": max(start + 1, b), "value": level, "ease": "smooth"})
    return keys


def _done(change: float, label: str, command: Command) -> Cure:
    if abs(change) <= LEAST_DB:
        return Cure(f"{label}: it is there already", ())
    return Cure(f"{label} ({signed(change)} dB)" if "untreated" not in label else label, (command,))


def _owner(survey: Survey, name: str) -> Owner:
    found = next((o for o in survey.owners() if o.name == name), None)
    if found is None:
        raise Refused("there is no such treatment that is heard", "of")
    return found


def _clip(survey: Survey, id: str) -> tuple[Track, Clip]:
    found = next(((t, c) for t in survey.reel.tracks for c in t.clips if c.id == id), None)
    if found is None:
        raise Refused(f"there is no clip “{id}”", "of")
    return found


def _track(survey: Survey, id: str) -> Track:
    found = next((t for t in survey.reel.tracks if t.id == id), None)
    if found is None:
        raise Refused(f"there is no track “{id}”", "of")
    return found


def _rows(survey: Survey, name: str) -> Floats:
    """Levels of a clip as it is laid, with its treatment; of a track; or of the mix."""
    kind, _, id = name.partition(":")
    if kind == "mix":
        return survey.rows(0, survey.length)
    if kind == "track":
        return survey.rows(0, survey.length, survey.track_node(_track(survey, id)))
    _, clip = _clip(survey, id)
    node = survey.treated_clip(clip)
    if node is None:
        raise Refused("this clip is not heard", "of")
    return survey.rows(clip.start, min(clip.end, survey.length), node)


def _loudness(survey: Survey, name: str) -> float:
    found = integrated(_rows(survey, name)[:, WEIGHTED])
    if found is None:
        raise Refused(f"“{_label(survey, name)}” is silent: it has no loudness", "of")
    return found


def _label(survey: Survey, name: str) -> str:
    kind, _, id = name.partition(":")
    if kind == "mix":
        return "the mix"
    if kind == "track":
        track = _track(survey, id)
        return track.name or track.id
    return survey.name_of_clip(_clip(survey, id)[1])


def _raised(survey: Survey, name: str, db: float) -> Command:
    kind, _, id = name.partition(":")
    if kind == "mix":
        return {"kind": "set_mix", "gain_db": _level(survey.reel.mix.gain_db, db)}
    if kind == "track":
        level = _level(_track(survey, id).gain_db, db)
        return {"kind": "set_track", "id": id, "gain_db": level}
    return {"kind": "set_clip", "id": id, "gain_db": _level(_clip(survey, id)[1].gain_db, db)}


def _level(value: Movable, db: float) -> object:
    """A level higher by so much; refused where it would go beyond what a level may be."""
    highest = (
        max(k.value for k in value.keyframes) if isinstance(value, Keyframes) else float(value)
    )
    if highest + db > 24.0:
        raise Refused(
            f"that would take the level to {signed(highest + db)} dB; it can be at most +24 dB",
            "of",
        )
    return shifted(value, db)
