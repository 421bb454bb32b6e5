"""Whatever an editor could build can be judged, and every cure can be carried out."""

import os

import numpy as np
import pytest

import drawn
from bathyphon.core.edits import apply_edits, parse_command
from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.listen.judge import judge, survey_of
from bathyphon.core.reel.parse import read_reel
from thinned import thinned


def judged(document, media):
    return judge(survey_of(document, read_reel(document), media))


def judge_and_cure(seed):
    """A reel drawn at random, judged; each cure is one edit that can be undone."""
    rng = np.random.default_rng(seed)
    rate = int(rng.choice(drawn.RATES))
    document, media = drawn.reel(rng, rate), drawn.media(rng, rate)
    if rng.random() < 0.5:
        # With a picture, its cuts, and a clip that belongs to it.
        n = int(rate * drawn.SECONDS)
        picture = {"media": "glide", "start": 0, "length": n, "source_start": 0}
        document["picture"] = {"clips": [picture], "cuts": [20, 45, 80]}
    found = judged(document, media)
    assert len({f.id for f in found.findings}) == len(found.findings)
    for finding in found.findings:
        assert 0 <= finding.sure <= 1
        assert finding.start <= finding.stop
        if finding.cure is None:
            continue
        commands = [parse_command(c) for c in finding.cure.commands]
        edit = apply_edits(document, read_reel(document), commands)
        assert edit.forward, finding
        back, _ = apply_patch(edit.document, edit.inverse)
        assert back == document
    return found


@pytest.mark.parametrize("seed", thinned([101, 0, 143, 1, 3, 2], 2))
def test_any_reel_is_judged_and_every_cure_can_be_carried_out(seed):
    judge_and_cure(seed)


@pytest.mark.long
def test_many_reels_are_judged():
    first = int.from_bytes(os.urandom(4), "little")
    for seed in range(first, first + 100):
        try:
            judge_and_cure(seed)
        except Exception as error:
            raise AssertionError(f"seed {seed}") from error


@pytest.mark.parametrize(
    "change",
    [
        {"tracks": []},
        {"media": [], "tracks": [{"id": "t", "clips": []}]},
        {"tracks": [{"id": "t", "mute": True, "clips": [{"id": "c", "media": "m", "start": 0,
                                                         "length": 1}]}]},
        {"tracks": [{"id": "t", "clips": [{"id": "c", "media": "gone", "start": 5,
                                           "length": 1}]}]},
    ],
)  # fmt: skip
def test_reels_with_next_to_nothing_in_them(change):
    """Empty, muted, one sample long, its file gone."""
    from reels import Memory, document, noise

    reel = document(48000) | change
    if "media" not in change:
        reel["media"] = [{"id": "m", "path": "m.wav"}, {"id": "gone", "path": "gone.wav"}]
    sounds = Memory(m=noise(48000), gone=np.zeros((2, 0), np.float32))
    assert judged(reel, sounds).dismissed == ()
