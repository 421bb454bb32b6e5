"""Pitch and harmony as effects: exact shifts, alignment, the same bits however they are asked."""

import numpy as np
import pytest

from bathyphon.core.dsp.pitch import contour_of, note_name
from bathyphon.core.dsp.scales import key_of, pulled, steps_away
from bathyphon.core.effects import EFFECTS
from bathyphon.core.engine.plan import effect_settings
from bathyphon.core.reel.model import EffectPart
from reels import Memory, document, effect, keyframes, noise, rendered, same_bits, treatment

RATE = 48000
N = 200000
START, LENGTH = 48000, 96000


def tone(hz, samples=N):
    x = 0.2 * np.sin(2 * np.pi * np.cumsum(np.broadcast_to(hz, samples)) / RATE)
    x = x + 0.1 * np.sin(4 * np.pi * np.cumsum(np.broadcast_to(hz, samples)) / RATE)
    return np.stack([x, x]).astype(np.float32)


def treated(sound, *effects):
    return rendered(document(N, treatments=[treatment(START, LENGTH, *effects)]), Memory(m1=sound))


def spectrum(y, hz):
    """Level in dB around a frequency, in the middle of the span."""
    part = y[START + 30000 : START + 30000 + 32768]
    found = np.abs(np.fft.rfft(part * np.blackman(part.size)))
    k = round(hz * part.size / RATE)
    return 20 * np.log10(found[k - 3 : k + 4].max() + 1e-12)


MOVING = {
    "pitch": {
        "semitones": keyframes((0, 0), (40000, 5), (60000, -3)),
        "mix": keyframes((0, 100), (50000, 40)),
        "formant_shift": keyframes((0, 0), (30000, 2)),
    },
    "tuned": {"tune": keyframes((0, 0), (40000, 100)), "scale": "major", "key": "D"},
    "harmony": {
        "voices": [
            {"semitones": keyframes((0, 4), (30000, 7)), "pan": -40, "low_cut_hz": 200},
            {"semitones": 0, "degree": 2, "delay_frames": 1},
            {"semitones": 0, "cents": 12, "delay_ms": 30, "gain_db": keyframes((0, 0), (9000, -9))},
        ]
    },
}


@pytest.mark.parametrize("name", MOVING)
def test_the_same_bits_whatever_the_block_and_wherever_one_begins(name):
    kind = "pitch" if name == "tuned" else name
    sound = tone(220 * 2 ** (0.05 * np.sin(np.arange(N) / 9000))) + noise(N, 3, 0.01)
    doc = document(N, treatments=[treatment(START, LENGTH, effect(kind, **MOVING[name]))])
    media = Memory(m1=sound)
    whole = rendered(doc, media)
    assert same_bits(whole, rendered(doc, media, block=1777))
    assert same_bits(whole[:, 110000:], rendered(doc, media, start=110000))
    # Outside the span nothing has changed.
    outside = np.concatenate([whole[:, :START], whole[:, START + LENGTH :]], axis=1)
    plain = np.concatenate([sound[:, :START], sound[:, START + LENGTH :]], axis=1)
    assert np.array_equal(outside, plain)


@pytest.mark.parametrize("name", MOVING)
def test_the_same_bits_from_a_checkpoint(name):
    kind = EFFECTS["pitch" if name == "tuned" else name]
    part = EffectPart(id="e", kind=kind.id, params=MOVING[name])
    settings = effect_settings(part, RATE)
    x = tone(220 * 2 ** (0.05 * np.sin(np.arange(N) / 9000))).astype(float)
    late = kind.lookahead(settings)

    def run(processor, first, last):
        parts = [
            processor.process(x[:, a : a + 4000].copy(), a - late, np.ones(4000))
            for a in range(first, last, 4000)
        ]
        return np.concatenate(parts, axis=1)

    straight = kind.make(settings)
    run(straight, 0, 120000)
    state = [part.copy() for part in straight.state()]
    again = kind.make(settings)
    again.restore(tuple(state))
    assert np.array_equal(run(straight, 120000, 200000), run(again, 120000, 200000))


def test_a_shift_is_exact_and_leaves_nothing_of_the_old_pitch():
    y = treated(tone(440.0), effect("pitch", semitones=4, formants="follow", material="music"))[0]
    assert spectrum(y, 440 * 2 ** (4 / 12)) > spectrum(y, 440) + 60


def test_nothing_is_changed_where_nothing_is_moved():
    sound = noise(N, 5)
    assert same_bits(treated(sound, effect("pitch")), sound)


def test_half_and_half_the_direct_sound_stays_in_time():
    sound = noise(N, 5)
    y = treated(sound, effect("pitch", semitones=7, mix=40))
    part = slice(START + 20000, START + 60000)
    both = np.correlate(y[0, part], np.pad(sound[0, part], 50), "valid")
    assert np.argmax(both) == 50


def test_a_wavering_voice_is_drawn_to_one_note():
    waver = 225 * 2 ** (0.4 / 12 * np.sin(2 * np.pi * 5 * np.arange(N) / RATE))
    y = treated(tone(waver), effect("pitch", tune=100, scale="one note", key="A"))[0]
    before = contour_of(tone(waver)[0, START + 20000 : START + 80000].astype(float), RATE)
    after = contour_of(y[START + 20000 : START + 80000].astype(float), RATE)
    assert note_name(round(after.median)) == "A3"
    assert np.nanstd(after.notes) < 0.25 * np.nanstd(before.notes)
    assert abs(after.median - 57) < 0.1


@pytest.mark.parametrize(("note", "wanted"), [("C", 4), ("D", 3), ("E", 3), ("F", 4), ("B", 3)])
def test_a_third_in_a_scale_is_major_or_minor_as_the_scale_has_it(note, wanted):
    """Source: harmony, the triads on the steps of a major scale."""
    number = 60 + ["C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"].index(note)
    assert steps_away(np.array([float(number)]), 2, 0, "major")[0] == wanted
    hz = 440 * 2 ** ((number - 69) / 12)
    voice = {"semitones": 0, "degree": 2, "gain_db": 0}
    y = treated(tone(hz), effect("harmony", voices=[voice], key="C", scale="major", dry_db=-96))[0]
    found = contour_of(y[START + 20000 : START + 60000].astype(float), RATE).median
    assert found == pytest.approx(number + wanted, abs=0.05)


@pytest.mark.parametrize(
    ("key", "name", "steps"),
    [
        (0, "major", (0, 2, 4, 5, 7, 9, 11, 12, 7, 4, 0)),
        (9, "minor", (0, 2, 3, 5, 7, 8, 10, 7, 3, 0)),
    ],
)
def test_the_key_of_notes(key, name, steps):
    """Source: scales up and down to their own triad."""
    for moved in (0, 5):
        notes = 57.0 + moved + key - 9 + np.repeat(np.array(steps, float), 20)
        assert key_of(notes) == ((key + moved) % 12, name)
    assert key_of(np.array([60.0, 60.1, np.nan])) is None


def test_a_voice_keeps_to_a_note_by_name():
    voice = {"semitones": 0, "note": "E", "gain_db": 0}
    y = treated(tone(262.0), effect("harmony", voices=[voice], dry_db=-96))[0]
    found = contour_of(y[START + 20000 : START + 60000].astype(float), RATE).median
    assert found == pytest.approx(64, abs=0.06)


def test_notes_are_pulled_to_the_nearest_of_a_scale():
    notes = np.array([60.3, 61.4, 71.2, np.nan])
    assert pulled(notes, 0, "major") == pytest.approx([-0.3, 0.6, -0.2, 0.0])


def test_voices_stand_where_they_are_put_and_come_when_they_should():
    click = np.zeros((2, N), np.float32)
    click[:, START + 30000] = 0.5
    voice = {"semitones": 0, "delay_frames": 2, "delay_ms": 10, "pan": 100, "gain_db": -6}
    y = treated(click, effect("harmony", voices=[voice]))
    # Two frames are 80 ms at 25 frames a second.
    place = START + 30000 + round(0.09 * RATE)
    assert abs(y[0, place]) < 1e-12
    assert y[1, place] == pytest.approx(0.5 * 10 ** (-6 / 20) * 2**0.5, rel=1e-3)


def test_the_pitch_of_tones_and_of_noise():
    for hz in (70.0, 110.0, 220.5, 440.0, 880.0):
        found = contour_of(tone(hz, 30000)[0].astype(float), RATE)
        assert found.median == pytest.approx(69 + 12 * np.log2(hz / 440), abs=0.02)
    assert contour_of(noise(30000, 3)[0].astype(float), RATE).median is None
