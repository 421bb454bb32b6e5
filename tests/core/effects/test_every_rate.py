"""Every effect and every way to change speed, at the lowest and the highest rate of a reel."""

import numpy as np
import pytest

import drawn
from bathyphon.core.effects import EFFECTS
from reels import Memory, document, noise, rendered, same_bits, treat, treatment
from thinned import in_turn

RATES = (8_000, 96_000, 192_000)


def sounds(rate, clip, *treatments):
    """Rendered in two ways: the same bits, finite, and heard."""
    media = Memory(m1=noise(2 * rate, 1, 0.2), room=noise(rate // 3, 2, 0.05))
    files = [{"id": id, "path": f"{id}.wav"} for id in ("m1", "room")]
    doc = document(rate, rate=rate, clip=clip, treatments=list(treatments), media=files)
    sound = rendered(doc, media, block=rate)
    assert same_bits(sound, rendered(doc, media, block=rate // 7))
    assert np.isfinite(sound).all()
    assert np.abs(sound[:, rate // 4 : rate // 2]).max() > 1e-4


@pytest.mark.parametrize("times", [1, pytest.param(4, marks=pytest.mark.long)])
@pytest.mark.parametrize(("kind", "rate"), in_turn(EFFECTS, RATES))
def test_every_effect_at_every_rate(kind, rate, times):
    rng = np.random.default_rng([rate, *kind.encode()])
    for _ in range(times):
        # What moves may reach silence or leave the band: the span is shorter than the clip.
        effect = drawn.effect(rng, rate, kind, "e", [])
        if kind == "space":
            # A long room at 192 kHz is half a minute's work.
            effect["params"] |= {"response": "barrel", "stretch": 50.0}
        span = treatment(rate // 2, rate // 2, effect)
        sounds(rate, {}, span)


PERCENT = [50, 100, 150, {"keyframes": [{"at": 0, "value": 60}, {"at": 4000, "value": 170}]}]


@pytest.mark.parametrize("pitch", ["hold", "follow"])
@pytest.mark.parametrize(("percent", "rate"), in_turn(PERCENT, RATES))
def test_every_speed_at_every_rate(percent, pitch, rate):
    sounds(rate, {"speed": {"percent": percent, "pitch": pitch, "semitones": 3.0}})


@pytest.mark.parametrize(("rate", "semitones"), in_turn(RATES, [-5, 7]))
def test_a_shifted_tone_has_its_pitch_and_its_level_at_every_rate(semitones, rate):
    """Source: equal temperament, 2^(1/12) a semitone."""
    at = np.arange(2 * rate) / rate
    x = np.stack([0.3 * np.sin(2 * np.pi * 440 * at)] * 2)
    moved = treat("pitch", x, rate, semitones=semitones, formants="follow", material="music")
    y = moved[0, rate // 2 : 3 * rate // 2]
    spectrum = np.abs(np.fft.rfft(y * np.hanning(y.size), 8 * y.size))
    found = np.argmax(spectrum) / 8
    assert abs(1200 * np.log2(found / (440 * 2 ** (semitones / 12)))) < 3
    assert abs(20 * np.log10(y.std() / x.std())) < 0.5
