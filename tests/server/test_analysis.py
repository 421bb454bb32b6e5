"""Spectrograms and the like over HTTP, as they are looked at while one edits."""

import numpy as np
import pytest
from conftest import RATE

from bathyphon.core.analysis.kind import MISSING
from bathyphon.core.measure.decay import decay_times
from bathyphon.server.reels.head import head_of
from bathyphon.server.sound.media import PreparedMedia
from reels import rendered

WAVE = {"kind": "wave", "of": "mix"}


def whole(api, reel, treated=True):
    reel.refresh_from_db()
    head = head_of(reel.pk, reel.revision)
    return rendered(head.document, PreparedMedia(api.user, head.reel), treated).astype(float)


def ask(api, reel, what="tile", headers=None, **query):
    text = "&".join(f"{k}={v}" for k, v in query.items())
    return api.get(f"/api/reels/{reel.pk}/analysis/{what}?{text}", **(headers or {}))


def tile(api, reel, rows, **query):
    """A whole tile, asked for until it is done."""
    for _ in range(50):
        answer = ask(api, reel, **{"step": 2, "index": 0, **query})
        assert answer.status_code == 200, answer.content
        if float(answer["X-Share"]) == 1:
            return np.frombuffer(answer.content, "<i2").reshape(200, rows), answer
    raise AssertionError("it is never done")


@pytest.mark.parametrize("side", ["after", "before"])
def test_a_tile_is_what_the_render_holds(api, reel, side):
    mix = whole(api, reel, side == "after")
    found, _ = tile(api, reel, 3, **WAVE, side=side)
    for k in range(mix.shape[1] * 10 // RATE):
        part = mix[:, k * RATE // 10 : (k + 1) * RATE // 10]
        assert found[k, :2] == pytest.approx([2000 * part.min(), 2000 * part.max()], abs=1)
    assert (found[-1] == MISSING).all()


def test_every_kind_comes_as_it_says(api, reel):
    kinds = api.get(f"/api/reels/{reel.pk}/analysis").json()
    assert [k["id"] for k in kinds] == ["wave", "spectrum", "loudness", "stereo", "pitch"]
    for kind in kinds:
        for axis in ("log", "mel"):
            width = len(kind["rows"][axis]) + len(kind["beside"])
            found, _ = tile(api, reel, width, kind=kind["id"], of="mix", axis=axis, step=3)
            assert kind["id"] == "pitch" or (found[0] != MISSING).any()


def test_what_has_not_changed_is_not_sent_again(api, reel):
    _, first = tile(api, reel, 3, **WAVE)
    again = {"If-None-Match": first["ETag"]}
    asked = {**WAVE, "step": 2, "index": 0}
    assert ask(api, reel, headers=again, **asked).status_code == 304
    api.edit(reel, 0, kind="set_track", id="t1", name="Another name")
    assert ask(api, reel, headers=again, **asked).status_code == 304
    api.edit(reel, 1, kind="set_track", id="t1", gain_db=-6)
    louder = np.frombuffer(first.content, "<i2").reshape(200, 3)
    quieter, _ = tile(api, reel, 3, **WAVE)
    assert quieter[5, 1] == pytest.approx(louder[5, 1] * 10**-0.3, abs=1)
    # What comes in is still the same: a track's level comes after its treatments.
    assert ask(api, reel, headers=again, **asked).status_code == 200


def test_a_mean_spectrum_adds_up_to_the_level(api, reel):
    found = ask(api, reel, "average", of="treatment:f1", start=0, stop=2 * RATE).json()
    for side, treated in (("after", True), ("before", False)):
        power = (whole(api, reel, treated)[:, : 2 * RATE] ** 2).mean()
        heard = sum(10 ** (db / 10) for db in found[side])
        # The bands end at 20 kHz, and noise does not.
        assert 10 * np.log10(heard / power) == pytest.approx(-0.4, abs=0.6)


def test_how_a_tail_decays(api, reel):
    answer = ask(api, reel, "tail", of="mix", start=0, stop=RATE)
    assert answer.status_code == 200, answer.content
    bands = answer.json()["bands"]
    expected = decay_times(whole(api, reel)[:, :RATE], RATE)
    assert [b["t20"] for b in bands] == pytest.approx([b.t20 for b in expected], rel=1e-3)
    assert answer.json()["start"] == 0
    dry = ask(api, reel, "tail", of="mix")
    assert dry.status_code == 422
    assert "there is no tail" in dry.json()["detail"]


@pytest.mark.parametrize(
    ("wrong", "status"),
    [
        ({"kind": "smell"}, 422),
        ({"of": "clip:no"}, 422),
        ({"step": 9}, 422),
        ({"index": -1}, 422),
        ({"axis": "linear"}, 422),
        ({"index": 9_999_999}, 200),
    ],
)
def test_what_cannot_be_shown_is_said(api, reel, wrong, status):
    answer = ask(api, reel, **{**WAVE, "step": 2, "index": 0, **wrong})
    assert answer.status_code == status
    if status == 200:
        assert (np.frombuffer(answer.content, "<i2") == MISSING).all()


def test_strangers_see_nothing(api, stranger, reel):
    asked = {**WAVE, "step": 2, "index": 0}
    assert ask(stranger, reel, **asked).status_code == 404
    assert ask(stranger, reel, "average", of="mix", start=0, stop=9).status_code == 404
    assert ask(stranger, reel, "tail", of="mix").status_code == 404
    assert stranger.get(f"/api/reels/{reel.pk}/analysis").status_code == 404
