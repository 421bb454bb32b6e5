"""How tails decay, against what was made to decay so."""

import numpy as np
import pytest

from bathyphon.core.analysis.tail import tail_of, thinned
from bathyphon.core.errors import Refused
from bathyphon.core.listen.judge import survey_of
from bathyphon.core.measure.decay import decay_times
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, rendered, treatment

RATE = 48000


def surveyed(doc, media):
    return survey_of(doc, read_reel(doc), media)


@pytest.mark.parametrize("t60", [0.4, 1.2, 2.5])
@pytest.mark.parametrize("late", [0, 7777])
def test_a_decay_of_a_known_time_is_found(t60, late):
    n = round(2 * t60 * RATE)
    falls = 10 ** (-3 * np.arange(n) / (t60 * RATE))
    media = Memory(m1=(noise(n, round(t60 * 10), 0.3) * falls).astype(np.float32))
    survey = surveyed(document(n, clip={"start": late}), media)
    start, bands = tail_of(survey, "mix", late, late + n)
    assert start == late
    for band in bands[3:]:
        assert band.t30 == pytest.approx(t60, rel=0.05)
        # What is drawn falls as the time says.
        at, level = thinned(band, 400)
        steady = (level > -35) & (level < -5)
        slope = np.polyfit(at[steady] / RATE, level[steady], 1)[0]
        assert -60 / slope == pytest.approx(band.t30, rel=0.05)
    mean = np.mean([band.t30 for band in bands[3:]])
    assert mean == pytest.approx(t60, rel=0.02)


def test_the_tail_of_a_treatment_is_what_it_alone_leaves_behind():
    # The clip goes on beneath the tail.
    span = treatment(0, RATE, effect("reverb", decay_s=0.8))
    doc = document(4 * RATE, treatments=[span])
    media = Memory(m1=noise(4 * RATE))
    start, bands = tail_of(surveyed(doc, media), "treatment:f1")
    assert start == RATE
    wet = rendered(doc, media).astype(float)
    dry = rendered(doc, media, treated=False).astype(float)
    rest = (wet - dry[:, : wet.shape[1]])[:, RATE:]
    expected = decay_times(rest, RATE)
    for band, other in zip(bands, expected, strict=True):
        assert band.t20 is None or band.t20 == pytest.approx(other.t20, rel=0.05)
    assert any(band.t20 is not None for band in bands)


def test_a_clip_rings_on_past_its_end():
    chain = {"effects": [{"id": "r", "kind": "reverb", "params": {"decay_s": 0.6}}]}
    doc = document(RATE, clip={"treatment": chain})
    start, bands = tail_of(surveyed(doc, Memory(m1=noise(RATE))), "clip:c1")
    assert start == RATE
    assert [b.t20 for b in bands if b.t20]


def test_what_does_not_ring_on_is_said_to():
    doc = document(RATE, treatments=[treatment(0, RATE // 2, effect("gain"))])
    survey = surveyed(doc, Memory(m1=noise(RATE)))
    with pytest.raises(Refused, match="there is no tail"):
        tail_of(survey, "treatment:f1")
    with pytest.raises(Refused, match="there is no tail"):
        tail_of(survey, "mix")
    with pytest.raises(Refused, match="too short"):
        tail_of(survey, "mix", 10, 20)
