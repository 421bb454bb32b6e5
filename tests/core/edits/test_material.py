"""A clip is stretched as what its track carries, unless it says itself what it is."""

import pytest

from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.reel.parse import read_reel
from reels import document

RATE = 48000
FASTER = {"kind": "set_speed", "ids": ["c1"], "percent": 120.0}
FITTED = {"kind": "fit_clip", "id": "c1", "length": RATE}


def speed_after(*commands, clip=None):
    reel = document(2 * RATE, clip=clip)
    done = apply_edits(reel, read_reel(reel), [parse_command(c) for c in commands])
    return done.document["tracks"][0]["clips"][0]["speed"]


@pytest.mark.parametrize("command", [FASTER, FITTED])
@pytest.mark.parametrize(
    ("carries", "material"), [("music", "music"), ("bed", "music"), ("speech", "voice")]
)
def test_a_track_tells_what_its_clips_are(command, carries, material):
    told = {"kind": "set_track", "id": "t1", "material": carries}
    assert speed_after(told, command)["material"] == material


@pytest.mark.parametrize("command", [FASTER, FITTED])
def test_what_nobody_has_said_is_left_open(command):
    assert "material" not in speed_after(command)


def test_a_clip_s_own_word_counts():
    told = {"kind": "set_track", "id": "t1", "material": "music"}
    own = {"speed": {"material": "voice"}}
    assert speed_after(told, FASTER, clip=own)["material"] == "voice"
