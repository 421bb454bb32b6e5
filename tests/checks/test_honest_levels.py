"""What an effect does is not mistaken for being louder: each comes as loud as untreated.

Source of the bounds: the project's own; loudness by ITU-R BS.1770 as in ``test_level.py``.
"""

from functools import cache
from pathlib import Path

import numpy as np
import pytest
import soundfile

from bathyphon.core.effects import EFFECTS
from bathyphon.core.measure.levels import levels_of, louder_by
from bathyphon.core.measure.tally import tally
from reels import Memory, document, effect, rendered, treatment
from soundtracks import speech
from thinned import thinned

RATE = 48000
SECONDS = 8
LU, PEAK_DB = 1.5, 3.0
SCORE = Path(__file__).parents[2] / "demo" / "ninth_sump" / "score.opus"
MEANT = {kind for kind, e in EFFECTS.items() if e.table.for_level}


@cache
def material(kind):
    """Eight seconds of speech or of music at −22 LUFS."""
    if kind == "speech":
        line = speech(np.random.default_rng(3), SECONDS)
        x = np.stack([line, line])
    else:
        whole = soundfile.read(SCORE, always_2d=True, dtype="float64")[0]
        x = whole[30 * RATE : (30 + SECONDS) * RATE].T
    return x * 10 ** ((-22 - levels_of(tally(x, RATE)).loudness) / 20)


@cache
def untreated(of):
    return tally(material(of), RATE)


def changed(kind, params, of):
    """By how many LU and by how many dB of its peak an effect makes a material louder."""
    n = SECONDS * RATE
    sound, before = material(of), untreated(of)
    reel = document(n, treatments=[treatment(0, n, effect(kind, **params))])
    y = rendered(reel, Memory(m1=sound.astype(np.float32)))[:, :n]
    after = tally(y, RATE)
    louder = louder_by(after, before)
    return louder, levels_of(after).true_peak - levels_of(before).true_peak


ALL = [
    (kind, name)
    for kind, e in EFFECTS.items()
    if kind not in MEANT
    for name in ("", *(p.name for p in e.presets))
]


def within(kind, name, sounds):
    e = EFFECTS[kind]
    params = e.preset(name, SECONDS * RATE) if name else dict(e.table.added)
    for sound in sounds:
        louder, peak = changed(kind, params, sound)
        assert abs(louder) <= LU, (sound, louder)
        assert peak <= PEAK_DB + 0.1, (sound, peak)


@pytest.mark.parametrize(("kind", "name"), thinned(ALL, 5))
def test_a_preset_keeps_loudness_and_peaks(kind, name):
    """Each on speech or on music, in turn; both in the long tests."""
    within(kind, name, ["speech" if ALL.index((kind, name)) // 5 % 2 else "music"])


@pytest.mark.long
@pytest.mark.parametrize(("kind", "name"), ALL)
def test_a_preset_keeps_loudness_and_peaks_of_both(kind, name):
    within(kind, name, ["speech", "music"])


@pytest.mark.parametrize("response", EFFECTS["space"].table.parameter("response").choices)
def test_every_place_answers_a_voice_as_loudly(response):
    params = {"response": response, "loudness": "alike", "mix": 100}
    louder, _ = changed("space", params, "speech")
    assert abs(louder) < 3.0


def test_older_documents_sound_as_before():
    """What a document does not set is as it was: no level, responses as they were recorded."""
    x = material("speech")[:, : 2 * RATE]
    n = x.shape[1]
    for kind in ("space", "reverb", "drive", "chorus"):
        plain = document(n, treatments=[treatment(0, n, effect(kind))])
        table = EFFECTS[kind].table
        told = {"level_db": 0.0} | ({"loudness": "as recorded"} if kind == "space" else {})
        same = document(n, treatments=[treatment(0, n, effect(kind, **told))])
        media = Memory(m1=x.astype(np.float32))
        assert table.parameter("level_db").default == 0.0
        assert np.array_equal(rendered(plain, media), rendered(same, media))
