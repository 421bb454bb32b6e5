"""Sound blocks: what the player gets is what a render gives."""

import asyncio
import threading
import time
from uuid import uuid4

import numpy as np
import pytest
from conftest import RATE
from django.db import connection

from bathyphon.core.engine.runner import Superseded
from bathyphon.server.reels.head import head_of
from bathyphon.server.sound import engine as sound_engine
from bathyphon.server.sound import views
from bathyphon.server.sound.engine import Asked, ReelEngine, engine_of
from bathyphon.server.sound.media import PreparedMedia
from bathyphon.server.sound.players import Players
from reels import rendered


def block(api, reel, index, side="treated", generation=1, **headers):
    query = f"player=p&generation={generation}"
    return api.get(f"/api/reels/{reel.pk}/sound/{side}/{index}?{query}", **headers)


def pcm(answer):
    return np.frombuffer(answer.content, np.float32).reshape(2, -1)


def whole(api, reel, treated=True):
    reel.refresh_from_db()
    head = head_of(reel.pk, reel.revision)
    return rendered(head.document, PreparedMedia(api.user, head.reel), treated)


@pytest.mark.parametrize("side", ["treated", "untreated"])
def test_blocks_equal_the_render_after_edits_never_exported(api, reel, side):
    api.edit(reel, 0, kind="set_chain", owner="treatment:f1", strength=70)
    api.edit(
        reel, 1, kind="add_effect", owner="clip:c1",
        effect={"id": "x", "kind": "echo", "params": {"time_ms": 120}},
    )  # fmt: skip
    api.edit(reel, 2, kind="set_effect", owner="treatment:f1", id="e0", params={"high_cut_hz": 333})
    expected = whole(api, reel, side == "treated")
    blocks = [pcm(block(api, reel, i, side)) for i in (3, 0, 2, 1)]
    for i, found in zip((3, 0, 2, 1), blocks, strict=True):
        assert found.tobytes() == expected[:, i * RATE : (i + 1) * RATE].tobytes()


def test_an_unchanged_block_is_not_sent_again(api, reel):
    tags = {i: block(api, reel, i)["ETag"] for i in range(4)}
    api.edit(reel, 0, kind="set_effect", owner="treatment:f1", id="e0", params={"high_cut_hz": 400})
    again = {i: block(api, reel, i, **{"If-None-Match": tags[i]}) for i in range(4)}
    assert [again[i].status_code for i in range(4)] == [304, 200, 304, 304]
    assert again[1]["X-Revision"] == "1"
    assert again[1]["X-Block"] == "exact"


def test_a_control_that_is_being_turned_is_heard_but_not_kept(api, reel):
    before = pcm(block(api, reel, 1))
    path = f"/api/reels/{reel.pk}/sound/treated/1?player=p&generation=2"
    turned = api.post(path, {"commands": [level(-9)]})
    assert turned["X-Block"] == "provisional"
    assert not np.array_equal(pcm(turned), before)
    assert np.array_equal(pcm(block(api, reel, 1, generation=3)), before)
    assert api.get(f"/api/reels/{reel.pk}").json()["revision"] == 0
    later = path.replace("generation=2", "generation=4")
    bad = api.post(later, {"commands": [{"kind": "set_track", "id": "t1", "gain_db": 99}]})
    assert bad.status_code == 422


def level(db):
    """The command that sets the level of the treatment's first effect."""
    kind = {"kind": "set_effect", "owner": "treatment:f1", "id": "e0"}
    return {**kind, "params": {"level_db": db}}


@pytest.mark.parametrize("count", [1, 21, 400])
def test_a_draft_may_be_of_many_commands(api, reel, count):
    path = f"/api/reels/{reel.pk}/sound/treated/1?player=p&generation="
    one = pcm(api.post(f"{path}1", {"commands": [level(-9)]}))
    many = [level(-(k % 20)) for k in range(count - 1)]
    assert np.array_equal(pcm(api.post(f"{path}2", {"commands": [*many, level(-9)]})), one)


def test_a_draft_is_heard_upon_what_is_on_its_way_and_once_it_is_recorded_not_twice(api, reel):
    path = f"/api/reels/{reel.pk}/sound/treated/1?player=p&generation="
    louder = {"kind": "add_effect", "owner": "treatment:f1",
              "effect": {"id": "more", "kind": "gain", "params": {"level_db": 3}}}  # fmt: skip
    sent = {"edit_id": str(uuid4()), "commands": [louder]}
    both = pcm(api.post(f"{path}1", {"commands": [louder, level(-9)]}))
    draft = {"commands": [level(-9)], "upon": [sent]}
    assert np.array_equal(pcm(api.post(f"{path}2", draft)), both)
    assert not np.array_equal(pcm(api.post(f"{path}3", {"commands": [level(-9)]})), both)
    done = api.post(f"/api/reels/{reel.pk}/edits", {**sent, "base": 0})
    assert done.status_code == 200
    assert np.array_equal(pcm(api.post(f"{path}4", draft)), both)


def test_the_block_at_the_end_is_as_short_as_the_reel(api, reel):
    api.edit(
        reel, 0, kind="add_effect", owner="clip:c1",
        effect={"id": "x", "kind": "echo", "params": {"time_ms": 10, "feedback": 20}},
    )  # fmt: skip
    length = api.get(f"/api/reels/{reel.pk}").json()["derived"]["length"]
    assert pcm(block(api, reel, 4)).shape[1] == length - 4 * RATE
    assert pcm(block(api, reel, 9)).shape[1] == 0


def test_bad_requests_are_answered_clearly(api, reel):
    assert block(api, reel, 0, "sideways").status_code == 404
    assert block(api, reel, 10**9).status_code == 404
    assert api.post(f"/api/reels/{reel.pk}/sound/treated/0", {"a": 1}).status_code == 422


def test_a_player_has_two_requests_under_way_at_most():
    players = Players()
    assert players.begin("p", 1, 7)
    assert players.begin("p", 1, 7)
    assert not players.begin("p", 1, 7)
    assert players.begin("q", 1, 7)
    assert players.begin("p", 2, 7)
    assert not players.wanted("p", 1)
    assert players.wanted("p", 2)
    players.end("p", 2, 7)
    assert players.begin("p", 2, 7)
    assert players.begin("p", 2, 7)


def test_what_has_been_overtaken_on_its_way_keeps_nobody_out():
    """Two requests may arrive in the other order, and the older ones end when they like."""
    players = Players()
    assert players.begin("p", 5, 7)
    for _ in range(3):
        assert players.begin("p", 4, 7)
        players.end("p", 4, 7)
    assert players.begin("p", 5, 7)
    assert not players.begin("p", 5, 7)
    players.end("p", 5, 7)
    players.end("p", 5, 7)
    assert players.begin("p", 5, 7)
    assert players.begin("p", 5, 7)


def test_an_account_has_so_many_under_way_in_all_its_windows():
    players = Players()
    for window in range(Players.OF_ACCOUNT):
        assert players.begin(f"w{window}", 1, 7)
    assert not players.begin("another", 1, 7)
    assert players.begin("somebody else's", 1, 8)
    players.end("w0", 1, 7)
    assert players.begin("another", 1, 7)


@pytest.mark.parametrize("seed", range(5))
def test_whatever_comes_and_goes_nothing_stays_counted(seed):
    """Windows that jump, leave and come again, in any order."""
    rng = np.random.default_rng(seed)
    players = Players()
    open_ones = []
    for _ in range(500):
        if open_ones and rng.random() < 0.5:
            players.end(*open_ones.pop(int(rng.integers(len(open_ones)))))
            continue
        asked = (f"p{rng.integers(6)}", int(rng.integers(4)), int(rng.integers(3)))
        if players.begin(*asked):
            open_ones.append(asked)
    for asked in open_ones:
        players.end(*asked)
    for account in range(3):
        for window in range(Players.OF_ACCOUNT):
            assert players.begin(f"{account}-{window}", 9, account)


def test_a_superseded_request_stops_on_its_way(api, reel):
    head = head_of(reel.pk, 0)
    engine = engine_of(reel.pk, RATE)
    media = PreparedMedia(api.user, head.reel)
    calls = []

    def wanted():
        calls.append(1)
        return len(calls) < 8

    with pytest.raises(Superseded):
        engine.block(Asked(head, media, "treated", wanted=wanted), 1)
    found = engine.block(Asked(head, media, "treated"), 1)
    expected = whole(api, reel)[:, RATE : 2 * RATE]
    assert found.pcm == expected.tobytes()


class Measuring(threading.Thread):
    """Measures on and on, and counts its steps."""

    def __init__(self, engine):
        super().__init__(daemon=True)
        self.engine, self.steps, self.wanted = engine, 0, True
        self.start()

    def run(self):
        with self.engine.politely(lambda: self.wanted) as going_on:
            while going_on():
                self.steps += 1
                time.sleep(0.005)

    def goes_on(self, seconds=60.0):
        before, until = self.steps, time.monotonic() + seconds
        while self.steps == before and time.monotonic() < until:
            time.sleep(0.01)
        return self.steps > before

    def stands(self):
        # The step that has begun may still end.
        time.sleep(0.2)
        before = self.steps
        time.sleep(0.4)
        return self.steps == before


@pytest.mark.parametrize("what", ["played", "drawn"])
def test_what_is_measured_waits_while_a_hand_is_at_work(api, reel, monkeypatch, what):
    monkeypatch.setattr(sound_engine, "HAND_RESTS_SECONDS", 1e9)
    monkeypatch.setattr(sound_engine, "HAND_PATIENT_SECONDS", 1e9)
    head = head_of(reel.pk, 0)
    engine = ReelEngine(RATE)
    media = PreparedMedia(api.user, head.reel)
    measuring = Measuring(engine)
    assert measuring.goes_on()
    # A player's own pieces are no hand's.
    engine.slice(Asked(head, media, "treated"), 0, 4800)
    assert measuring.goes_on()
    turned = [{"kind": "set_chain", "owner": "treatment:f1", "strength": 70}]
    engine.slice(Asked(head, media, "treated", turned), 0, 4800)
    assert measuring.stands()
    # Somebody who plays, or the hand's own drawing, waits for what has begun: that ends first.
    asked = Asked(head, media, "treated")
    ask, given = (engine.block, (0,)) if what == "played" else (engine.stretch, (None, 0, RATE))
    seconds = threading.Thread(target=ask, args=(asked, *given))
    seconds.start()
    assert measuring.goes_on()
    measuring.wanted = False
    seconds.join(60)
    assert not seconds.is_alive()
    later = Measuring(engine)
    assert later.stands()
    # The hand rests.
    monkeypatch.setattr(sound_engine, "HAND_RESTS_SECONDS", 0.0)
    assert later.goes_on()
    later.wanted = False
    # One that never rests holds nothing up for ever.
    monkeypatch.setattr(sound_engine, "HAND_RESTS_SECONDS", 1e9)
    monkeypatch.setattr(sound_engine, "HAND_PATIENT_SECONDS", 0.3)
    never = Measuring(engine)
    assert never.goes_on()
    assert never.goes_on()
    never.wanted = False


@pytest.mark.django_db(transaction=True)
def test_many_threads_get_the_same_sound(api, reel):
    head = head_of(reel.pk, 0)
    engine = engine_of(reel.pk, RATE)
    expected = whole(api, reel)
    results: dict[int, bytes] = {}
    media = PreparedMedia(api.user, head.reel)
    assert not media.missing

    def ask(i):
        results[i] = engine.block(Asked(head, media, "treated"), i).pcm
        connection.close()

    results[0] = engine.block(Asked(head, media, "treated"), 0).pcm
    asked = [threading.Thread(target=ask, args=(i,)) for i in (3, 1, 2)]
    for thread in asked:
        thread.start()
    for thread in asked:
        thread.join()
    for i in results:
        assert results[i] == expected[:, i * RATE : (i + 1) * RATE].tobytes()


def test_a_window_that_has_gone_frees_its_place(monkeypatch):
    began, ended = threading.Event(), threading.Event()

    def compute(asked, head, media, wanted):
        began.set()
        while wanted():
            time.sleep(0.001)
        ended.set()

    async def goes():
        asked = views._Request(uuid4(), "gone", 1, "treated", 0, None, 1, "", account=0)
        assert views.players.begin("gone", 1, 0)
        request = asyncio.create_task(views._made(asked, None, None))
        await asyncio.to_thread(began.wait)
        request.cancel()
        with pytest.raises(asyncio.CancelledError):
            await request

    monkeypatch.setattr(views, "_compute", compute)
    asyncio.run(goes())
    assert ended.wait(10)
    # Both of its places are free, and no more than two.
    assert [views.players.begin("gone", 1, 0) for _ in range(3)] == [True, True, False]


def test_media_that_are_not_there_are_silence_and_are_named(api, reel, media):
    id = str(media.pk)
    media.delete()
    state = api.get(f"/api/reels/{reel.pk}").json()
    assert state["derived"]["missing_media"] == [id]
    assert not pcm(block(api, reel, 0)).any()


def test_an_effect_is_drawn_at_a_moment_and_as_it_is_turned(api, reel):
    path = f"/api/reels/{reel.pk}/drawing"
    wanted = {"owner": "treatment:f1", "effect": "e0", "at": RATE}
    plain = api.post(path, wanted).json()["drawing"]
    turned = api.post(path, {**wanted, "params": {"high_cut_hz": 200}}).json()["drawing"]
    assert plain["grips"][0]["x_parameter"] == "high_cut_hz"
    assert turned["grips"][0]["x"] == 200
    assert plain["lines"] != turned["lines"]
    assert api.post(path, {**wanted, "effect": "gone"}).status_code == 422


def test_what_is_effective_of_a_lane_is_between_neutral_and_target(api, reel):
    path = f"/api/reels/{reel.pk}/effective"
    wanted = {"lane": "treatment:f1/e0/high_cut_hz", "start": 0, "end": 4 * RATE, "places": 400}
    values = api.post(path, wanted).json()["values"]
    assert max(values) == pytest.approx(20000)
    assert values[0] > 10 * min(values)
    strength = api.post(path, {**wanted, "lane": "treatment:f1/strength"}).json()["values"]
    assert (min(strength), max(strength)) == (0, 100)
    assert api.post(path, {**wanted, "lane": "track:t1/pan"}).json()["values"] is None
    assert api.post(path, {**wanted, "lane": "treatment:f1/gone/x"}).status_code == 422
    assert api.post(path, {**wanted, "end": 0}).status_code == 422


@pytest.mark.parametrize("owner", ["treatment:f1", "clip:c1", "track:t1", "mix"])
def test_treated_and_untreated_levels_are_those_of_the_sound(api, reel, owner):
    api.edit(reel, 0, kind="set_effect", owner="treatment:f1", id="e0", params={"level_db": -96})
    drawn = api.post(f"/api/reels/{reel.pk}/wave", {"owner": owner}).json()["drawing"]
    bare, treated = drawn["lines"][0], drawn["lines"][-1]
    assert len(bare["x"]) == len(treated["x"]) == len(treated["y"])
    # Muffled down to silence inside the span, and nowhere else.
    assert min(treated["y"]) == -72
    assert min(bare["y"]) > -40


def test_a_clip_at_another_speed_is_heard_from_anywhere_as_it_is_rendered(api, reel):
    api.edit(reel, 0, kind="set_speed", ids=["c1"], percent=80.0, semitones=-2.0)
    expected = whole(api, reel)
    for i in (4, 0, 2):
        assert (
            pcm(block(api, reel, i)).tobytes()
            == expected[:, i * RATE : (i + 1) * RATE].astype(np.float32).tobytes()
        )
    state = api.get(f"/api/reels/{reel.pk}").json()
    facts = state["derived"]["speeds"]["c1"]
    assert facts["percent"] == 80
    assert facts["shift"] == pytest.approx(-3.863, abs=5e-4)
    assert facts["exact"] == pytest.approx(3.863, abs=5e-4)
    clip = state["document"]["tracks"][0]["clips"][0]
    assert facts["outline"][-1] == [clip["length"], pytest.approx(0.8 * clip["length"], abs=1)]


def test_a_change_late_in_a_reel_leaves_the_blocks_of_a_sped_clip_as_they_are(api, reel):
    api.edit(reel, 0, kind="set_speed", ids=["c1"], percent=90.0)
    tags = {i: block(api, reel, i)["ETag"] for i in range(4)}
    api.edit(reel, 1, kind="set_effect", owner="treatment:f1", id="e0", params={"high_cut_hz": 400})
    again = [block(api, reel, i, **{"If-None-Match": tags[i]}).status_code for i in range(4)]
    assert again == [304, 200, 304, 304]


def test_the_pitch_of_a_clip_is_told(api, reel):
    path = f"/api/reels/{reel.pk}/pitch"
    answer = api.post(path, {"clip": "c1", "start": 0, "end": RATE}).json()
    assert 90 <= len(answer["points"]) <= 102
    assert answer["points"][0][0] == 0
    assert api.post(path, {"clip": "gone", "start": 0, "end": RATE}).status_code == 422
    assert api.post(path, {"clip": "c1", "start": 9, "end": 9}).status_code == 422
