"""Levels set in one step are where they were asked for."""

import numpy as np
import pytest
from scipy.ndimage import uniform_filter1d

from bathyphon.core.errors import Refused
from bathyphon.core.listen import levelling as step
from bathyphon.core.measure.levels import levels_of, louder_by
from bathyphon.core.measure.loudness import integrated, lufs
from bathyphon.core.measure.tally import WEIGHTED
from soundtracks import FRAME, RATE, Film, film
from thinned import thinned

LOUD = {"type": "peak", "freq_hz": 700, "gain_db": 14, "q": 0.4}


def levels(reel: Film, part: str):
    return levels_of(step._rows(reel.survey(), part))


def after(reel: Film, cure):
    return reel.after(*cure.commands) if cure.commands else reel


@pytest.mark.parametrize(
    ("kind", "params"),
    [("drive", {"amount_db": 20}), ("reverb", {"mix": 80}), ("eq", {"bands": [LOUD]})],
)
@pytest.mark.parametrize("strength", [100, 60])
def test_a_treatment_is_matched_to_untreated(kind, params, strength):
    """Also where it is not quite there, or part of the sound goes past it."""
    reel = film(40).copy()
    room = reel.track("voice")["treatments"][0]
    room["effects"] = [{"id": "d", "kind": kind, "params": params}]
    room["strength"] = strength
    cure = step.match_untreated(reel.survey(), "treatment:room")
    (command,) = cure.commands
    assert command["effect"]["kind"] == "gain"
    survey = after(reel, cure).survey()
    owner = next(o for o in survey.owners() if o.name == "treatment:room")
    # On its way in and out it is only partly there.
    start, stop = owner.start + 5 * FRAME, owner.stop - 5 * FRAME
    changed = louder_by(
        survey.rows(start, stop, owner.node), survey.rows(start, stop, owner.node.source)
    )
    assert abs(changed) < 0.3


@pytest.mark.parametrize("part", ["clip:v1", "track:music", "mix"])
def test_a_loudness_and_a_peak_that_are_asked_for(part):
    reel = film(41)
    louder = after(reel, step.to_loudness(reel.survey(), part, -25.0))
    assert levels(louder, part).loudness == pytest.approx(-25.0, abs=0.02)
    peaked = after(reel, step.normalise(reel.survey(), part))
    assert -1.03 <= levels(peaked, part).true_peak <= -1.0
    again = step.normalise(peaked.survey(), part)
    assert again.commands == ()
    assert "already" in again.label


def test_a_moving_level_moves_as_before_and_silence_stays():
    reel = film(42).copy()
    keys = [{"at": 0, "value": -96}, {"at": RATE, "value": -8}, {"at": 9 * RATE, "value": -3}]
    reel.track("bed")["clips"][0]["gain_db"] = {"keyframes": keys}
    done = after(reel, step.to_loudness(reel.survey(), "clip:b1", -30.0))
    found = done.track("bed")["clips"][0]["gain_db"]["keyframes"]
    assert found[0]["value"] == -96
    assert found[2]["value"] - found[1]["value"] == pytest.approx(5.0, abs=0.011)
    assert levels(done, "clip:b1").loudness == pytest.approx(-30.0, abs=0.05)


def test_clips_are_matched_to_a_neighbour_to_another_and_set_alike():
    reel = film(43)
    loud = reel.after({"kind": "set_clip", "id": "v2", "gain_db": 7.5})
    one = after(loud, step.match_neighbour(loud.survey(), "v2"))
    first = levels(one, "clip:v1").loudness
    assert levels(one, "clip:v2").loudness == pytest.approx(first, abs=0.02)
    two = after(loud, step.match_part(loud.survey(), "clip:b1", "clip:m1"))
    third = levels(two, "clip:m1").loudness
    assert levels(two, "clip:b1").loudness == pytest.approx(third, abs=0.02)
    names = ["clip:v1", "clip:v2", "clip:m1"]
    alike = after(loud, step.set_alike(loud.survey(), names))
    found = [levels(alike, name).loudness for name in names]
    assert max(found) - min(found) < 0.03


def test_a_bed_dips_under_speech():
    reel = film(44)
    cure = step.dip_under_speech(reel.survey(), "music", 10.0)
    survey, dipped = reel.survey(), after(reel, cure).survey()
    voice = survey.rows(0, survey.length, survey.track_node(survey.reel.tracks[0]))[:, WEIGHTED]
    spoken = voice > np.percentile(voice, 60)
    before, behind = (
        s.rows(0, s.length, s.track_node(s.reel.tracks[1]))[:, WEIGHTED] for s in (survey, dipped)
    )
    change = 10 * np.log10(behind[spoken].sum() / before[spoken].sum())
    assert -10.5 < change < -7.0


@pytest.mark.parametrize("seed", thinned(range(5), 5))
def test_an_uneven_voice_is_evened_out(seed):
    """Phrases at levels drawn at random come within 2 dB of each other, quiet ones alone too."""
    reel = film(45 + seed).copy()
    rng = np.random.default_rng(seed)
    x = reel.sounds["voice"]
    speaking = uniform_filter1d(np.abs(x[0]), RATE // 4, mode="constant") > 1e-3
    edges = np.flatnonzero(np.diff(speaking.astype(np.int8)))
    gain = np.ones(x.shape[1])
    for a in edges[speaking[np.minimum(edges + 1, x.shape[1] - 1)]]:
        gain[a:] = 10 ** (rng.uniform(-7, 7) / 20)
    x *= gain

    def heard(film_now):
        return step._rows(film_now.survey(), "clip:v1")[:, WEIGHTED]

    phrases = step.phrase_gains(heard(reel))

    def spread(film_now):
        rows = heard(film_now)
        return np.std([lufs(rows[a:b].mean()) for a, b, gain in phrases if abs(gain) < 8.9])

    even = after(reel, step.even_out(reel.survey(), "v1"))
    assert spread(even) <= max(0.8, 0.4 * spread(reel))
    up = after(reel, step.even_out(reel.survey(), "v1", only_up=True))
    level = up.track("voice")["clips"][0].get("gain_db", 0)
    if isinstance(level, dict):
        assert min(k["value"] for k in level["keyframes"]) >= 0


def test_what_cannot_be_done_is_refused_in_a_sentence():
    reel = film(50).copy()
    reel.sounds["music"][:] = 0
    with pytest.raises(Refused, match="silent"):
        step.normalise(reel.survey(), "clip:m1")
    with pytest.raises(Refused, match="no neighbour"):
        step.match_neighbour(reel.survey(), "b1")
    with pytest.raises(Refused, match="at most"):
        step.to_loudness(reel.survey(), "clip:b1", 30.0)
    with pytest.raises(Refused, match="no such treatment"):
        step.match_untreated(reel.survey(), "treatment:none")
    moving = reel.after(
        {"kind": "set_clip", "id": "v1", "gain_db": {"keyframes": [{"at": 0, "value": 1}]}}
    )
    with pytest.raises(Refused, match="keyframes"):
        step.even_out(moving.survey(), "v1")
    assert integrated(np.zeros(100)) is None
