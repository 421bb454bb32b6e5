"""What sounds wrong is found and mended; what does not is left alone."""

import secrets
from pathlib import Path

import numpy as np
import pytest

from bathyphon.core.listen.findings import CHECKS
from bathyphon.core.listen.pages import page
from bathyphon.core.measure.levels import levels_of
from defects import DEFECTS, NEARLY
from reels import document, effect, noise, treatment
from soundtracks import SECONDS, Film, film
from thinned import thinned


def found(reel: Film, kind: str):
    """What one check finds."""
    survey = reel.survey()
    return [f for check in CHECKS if check.kind == kind for f in check.find(survey)]


def spoilt(spoil, strength, seed):
    """A clean film with one defect."""
    reel = film(seed).copy()
    spoil(reel, strength, np.random.default_rng(seed))
    return reel


def cured(reel: Film, kind: str) -> Film:
    """The film after the offered cures, one by one."""
    for _ in range(6):
        cures = [f.cure for f in found(reel, kind) if f.cure]
        if not cures:
            break
        reel = reel.after(*cures[0].commands)
    return reel


@pytest.mark.parametrize("seed", thinned(range(4), 2))
def test_in_a_clean_film_nothing_is_found(seed):
    assert film(seed).judged().findings == ()


@pytest.mark.long
def test_false_findings_are_rarer_than_one_in_ten_minutes():
    fresh_seed = secrets.randbelow(1 << 30)
    films = 60
    false = [f for k in range(films) for f in film(fresh_seed + k).judged().findings]
    minutes = films * SECONDS / 60
    print(f"{len(false)} false findings in {minutes:.0f} minutes: {[f.title for f in false]}")
    assert len(false) < minutes / 10


def each_once():
    """Every defect, some of them at their least and some strong; the others now and then."""
    for index, spoil in enumerate(DEFECTS):
        for place, strength in enumerate((0.0, 0.7)):
            marks = [] if (index + place) % 2 else [pytest.mark.long]
            yield pytest.param(spoil, strength, marks=marks, id=f"{spoil.__name__}-{strength}")


@pytest.mark.parametrize(("spoil", "strength"), list(each_once()))
def test_a_defect_is_found_and_gone_after_the_cure(spoil, strength):
    kind = DEFECTS[spoil]
    reel = spoilt(spoil, strength, 70 + round(10 * strength))
    findings = found(reel, kind)
    assert findings
    for finding in findings:
        assert 0 < finding.sure <= 1
        assert finding.start < finding.stop
    if any(f.cure for f in findings):
        assert not [f for f in found(cured(reel, kind), kind) if f.cure]


@pytest.mark.parametrize("close_lu", thinned([3.0, 1.0], 2))
def test_speech_that_is_covered_can_be_carved_free_as_well(close_lu):
    """Rain covers speech where speech lives; a dip there leaves its depth and its air."""
    reel = film(78).copy()
    survey = reel.survey()
    voice, _, bed = (
        levels_of(survey.rows(0, survey.length, survey.track_node(t))).loudness
        for t in survey.reel.tracks
    )
    reel.track("bed")["gain_db"] = reel.track("bed").get("gain_db", 0.0) + voice - bed - close_lu
    ways = [f.instead for f in reel.judged().findings if f.kind == "masking"]
    assert ways
    assert "Carve" in ways[0].label
    assert found(reel.after(*ways[0].commands), "masking") == []


@pytest.mark.parametrize("spoil", thinned(NEARLY, 2), ids=lambda spoil: spoil.__name__)
def test_what_is_only_nearly_a_defect_is_left_alone(spoil):
    assert found(spoilt(spoil, NEARLY[spoil], 75), DEFECTS[spoil]) == []


@pytest.mark.long
def test_defects_of_any_strength_are_found():
    fresh_seed = secrets.randbelow(1 << 30)
    rng = np.random.default_rng(fresh_seed)
    missed, count = [], 0
    for spoil, kind in DEFECTS.items():
        for strength in (0.0, *rng.uniform(0, 1, 4)):
            seed = int(rng.integers(1 << 30))
            count += 1
            reel = spoilt(spoil, strength, seed)
            if not found(reel, kind):
                missed.append((spoil.__name__, round(float(strength), 2), seed))
    print(f"{count - len(missed)} of {count} found; missed {missed}")
    assert len(missed) <= 0.05 * count


def test_a_dismissed_finding_stays_dismissed_and_can_be_taken_up_again():
    spoil = next(s for s in DEFECTS if s.__name__ == "there_and_back")
    reel = spoilt(spoil, 0.5, 76)
    (finding,) = reel.judged().findings
    kept = reel.after({"kind": "dismiss_finding", "finding": finding.id, "word": "on purpose"})
    judged = kept.judged()
    assert judged.findings == ()
    assert judged.dismissed == (finding,)
    # Also when the place has moved.
    moved = kept.after({"kind": "set_treatment", "id": "up", "start": {"frame": 60}})
    assert moved.judged().findings == ()
    back = kept.after({"kind": "recall_finding", "finding": finding.id})
    assert back.judged().findings == (finding,)


def test_thresholds_are_the_reel_s_own():
    spoil = next(s for s in DEFECTS if s.__name__ == "slipped_late")
    reel = spoilt(spoil, 0.0, 77)
    assert found(reel, "out_of_sync")
    wider = reel.after({"kind": "set_threshold", "id": "sync_late_ms", "value": 200.0})
    assert not found(wider, "out_of_sync")
    off = reel.after({"kind": "set_threshold", "id": "sync_late_ms"})
    assert not found(off, "out_of_sync")
    again = wider.after({"kind": "set_threshold", "id": "sync_late_ms", "reset": True})
    assert found(again, "out_of_sync")


def test_the_page_of_findings_is_as_new_as_the_checks():
    shipped = (Path(__file__).parents[3] / "docs" / "findings.md").read_text()
    assert page(CHECKS) == shipped, "python -m bathyphon.core.listen.pages > docs/findings.md"


def test_every_threshold_says_where_it_comes_from():
    thresholds = [t for check in CHECKS for t in check.thresholds]
    assert len({t.id for t in thresholds}) == len(thresholds)
    for threshold in thresholds:
        assert threshold.source
        assert threshold.help.endswith(".")
        if threshold.value is not None:
            assert threshold.least <= threshold.value <= threshold.most


@pytest.mark.parametrize("seconds", [5, 100])
def test_what_rings_past_the_picture_is_faded_by_its_end_however_far_off_that_is(seconds):
    rate = 8000
    ringing = effect("echo", time_ms=2000, feedback=99)
    doc = document(
        2 * rate, rate=rate, treatments=[{**treatment(0, 2 * rate, ringing), "id": "f1"}]
    )
    doc["picture"] = {"clips": [{"media": "m1", "start": 0, "length": seconds * rate}]}
    reel = Film(doc, {"m1": noise(2 * rate, level=0.3)})
    past = [f for f in found(reel, "tail") if f.part == "picture"]
    assert len(past) == 1
    after = reel.after(*past[0].cure.commands)
    (span,) = after.track("t1")["treatments"]
    assert span["ring_out"] == (seconds - 2) * rate
    assert not [f for f in found(after, "tail") if f.part == "picture"]
