"""The pitch that is shown of a clip is the one that is heard."""

import numpy as np
import pytest

from bathyphon.core.engine.heard_pitch import heard_pitch
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.reel.speed_facts import advice_on, facts_of, semitones_of
from reels import document, keyframes

RATE = 48000


def clip_at(**speed):
    return read_reel(document(RATE, clip={"speed": speed})).tracks[0].clips[0]


def tone(start, stop):
    x = 0.3 * np.sin(2 * np.pi * 220 * np.arange(start, stop) / RATE)
    return np.stack([x, x])


@pytest.mark.parametrize(
    ("speed", "note"),
    [
        ({}, 57.0),
        ({"percent": 125}, 57.0),
        ({"percent": 125, "pitch": "follow"}, 57 + 3.863),
        ({"semitones": -5, "cents": 20}, 52.2),
    ],
)
def test_the_note_follows_speed_and_shift(speed, note):
    found = heard_pitch(clip_at(**speed), tone, 0, RATE, RATE)
    notes = [n for _, n in found.points if n is not None]
    assert np.median(notes) == pytest.approx(note, abs=0.03)
    times = [t for t, _ in found.points]
    assert (times[0], times == sorted(times)) == (0, True)
    assert times[-1] <= RATE


def test_a_falling_speed_that_the_pitch_follows_falls():
    speed = {"pitch": "follow", "percent": keyframes((0, 100), (RATE, 50))}
    notes = [n for _, n in heard_pitch(clip_at(**speed), tone, 0, RATE, RATE).points]
    assert notes[3] > notes[len(notes) // 2] > notes[-3]


def test_facts_of_a_speed():
    """Source: equal temperament; what is natural, common practice."""
    for percent, semitones in ((110, 1.650), (125, 3.863), (80, -3.863)):
        assert semitones_of(percent) == pytest.approx(semitones, abs=5e-4)
    assert facts_of(clip_at(percent=110), RATE).by_ear == -1.5
    assert facts_of(clip_at(percent=125), RATE).by_ear == -3.5
    assert facts_of(clip_at(percent=117), RATE).by_ear is None
    assert advice_on(105, "voice") == ""
    assert "natural" in advice_on(115, "voice")
    assert "rushed" in advice_on(130, "voice")
    assert advice_on(100, "music") == ""
    assert "85 to 120" in advice_on(75, "music")
    moving = facts_of(clip_at(percent=keyframes((0, 100), (RATE, 50))), RATE)
    assert (moving.moves, moving.source_samples) == (True, RATE * 3 // 4)
