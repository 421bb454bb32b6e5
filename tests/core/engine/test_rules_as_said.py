"""Rules that do what they say: notes, poses, fades to silence, resets, files that are replaced."""

import numpy as np
import pytest

from bathyphon.core.dsp.pitch import contour_of
from bathyphon.core.edits.commands.lanes import lane_of, points_of
from bathyphon.core.edits.upgrade import keep_straight_fades
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.reel.parse import read_reel
from edits import apply, assert_all_is_undone_and_redone
from reels import Memory, document, effect, keyframes, noise, rendered, treat, treatment

RATE = 48000
FRAME = 1920
PAN = "track:t1/pan"


def sung(note, seconds=1.5):
    """A voice-like tone on a note by its number, 69 for 440 Hz."""
    t = np.arange(round(seconds * RATE)) / RATE
    hz = 440 * 2 ** ((note - 69) / 12)
    x = sum(np.sin(2 * np.pi * hz * k * t) / k for k in range(1, 8))
    return np.stack([x, x]) * 0.2


@pytest.mark.parametrize("semitones", [None, 4, -7])
@pytest.mark.parametrize(("note", "number"), [("C", 0), ("E", 4), ("G", 7), ("A♯", 10)])
def test_a_voice_that_keeps_to_a_note_sings_that_note(note, number, semitones):
    voice = {"note": note, "gain_db": 0}
    if semitones is not None:
        voice["semitones"] = semitones
    y = treat("harmony", sung(60.3), voices=[voice], dry_db=-96)
    heard = contour_of(y[0], RATE).median
    assert heard is not None
    assert (heard - number + 6) % 12 - 6 == pytest.approx(0, abs=0.06)


@pytest.mark.parametrize("over", [0, 1, 5])
@pytest.mark.parametrize("before", [None, 30.0])
def test_the_first_pose_begins_at_its_marker(over, before):
    doc = document(600 * FRAME)
    if before is not None:
        doc = apply(doc, kind="put_keyframes", keys=[
            {"lane": PAN, "moment": {"frame": 10}, "value": before}
        ]).document  # fmt: skip
    for id, value in (("right", 100), ("left", -100)):
        doc = apply(
            doc, kind="add_pose", pose={"id": id, "name": id, "values": {PAN: value}}
        ).document
    stamped = apply(
        doc, kind="stamp_poses", run=["right", "left"], stamp="s", over=over,
        moments=[{"frame": 300}, {"frame": 400}],
    )  # fmt: skip
    curve = build_graph(read_reel(stamped.document), Memory(m1=noise(10))).stems[0].pan

    def pan(frame):
        return float(curve.values(round(frame * FRAME), 1, RATE)[0])

    was = 0.0 if before is None else before
    assert [pan(f) for f in (0 if before is None else 10, 200, 299 - over)] == [was] * 3
    assert [pan(f) for f in (300.2, 350, 399 - over, 400.2, 500)] == [100, 100, 100, -100, -100]
    # What was put before it moves with it.
    moved = apply(stamped.document, kind="move_keyframes", frames=20, keys=[
        {"lane": PAN, "at": p["at"]}
        for p in points_of(stamped.document, lane_of(stamped.document, PAN))
        if p.get("pose") == "right" and p["at"] == 300 * FRAME
    ]).document  # fmt: skip
    ats = [
        p["at"] / FRAME for p in points_of(moved, lane_of(moved, PAN)) if p.get("stamp") == "s.0"
    ]
    assert min(ats) == pytest.approx(320 - max(over, 1 / FRAME))


def two_clips():
    doc = document(100 * FRAME, clip={"length": 100 * FRAME})
    second = {"id": "c2", "media": "m1", "start": 150 * FRAME, "length": 50 * FRAME}
    doc["tracks"][0]["clips"].append({**second, "source_start": 70 * FRAME})
    return doc


def test_a_clip_that_ends_before_a_beat_still_crossfades():
    ended = apply(two_clips(), kind="end_before_beat", clip="c1", beat=90 * FRAME).document
    clip = ended["tracks"][0]["clips"][0]
    assert clip["fade_out"]["length"] == 240
    over = apply(ended, kind="move_clips", ids=["c2"], to={"frame": 80}).document
    first, second = over["tracks"][0]["clips"]
    overlap = first["start"] + first["length"] - second["start"]
    assert first["fade_out"]["length"] == second["fade_in"]["length"] == overlap
    apart = apply(over, kind="move_clips", ids=["c2"], to={"frame": 150}).document
    assert apart["tracks"][0]["clips"][0]["fade_out"]["length"] == 240
    assert not apart["tracks"][0]["clips"][1].get("fade_in", {}).get("length")
    # Drawn by hand it is one's own.
    drawn = apply(ended, kind="set_fade", id="c1", edge="out", fade={"frames": 2}).document
    still = apply(drawn, kind="move_clips", ids=["c2"], to={"frame": 80}).document
    assert still["tracks"][0]["clips"][0]["fade_out"]["length"] == 2 * FRAME
    assert_all_is_undone_and_redone(
        two_clips(),
        [
            {"kind": "end_before_beat", "clip": "c1", "beat": 90 * FRAME},
            {"kind": "move_clips", "ids": ["c2"], "to": {"frame": 80}},
            {"kind": "move_clips", "ids": ["c2"], "to": {"frame": 150}},
        ],
    )


FADES = {
    "a clip": lambda level: document(RATE, clip={"gain_db": level}),
    "a track": lambda level: document(RATE) | {
        "tracks": [{**document(RATE)["tracks"][0], "gain_db": level}]
    },
    "the mix": lambda level: document(RATE, mix={"gain_db": level}),
    "an effect": lambda level: document(
        RATE, treatments=[treatment(0, RATE, effect("gain", level_db=level))]
    ),
}  # fmt: skip


@pytest.mark.parametrize("where", FADES)
@pytest.mark.parametrize("way", ["out", "in"])
def test_a_fade_to_silence_goes_on_until_it_is_over(where, way):
    # Five frames: after one of them most of the sound must still be there.
    levels = ((9600, 0), (9600 + 5 * FRAME, -96))
    if way == "in":
        levels = ((9600, -96), (9600 + 5 * FRAME, 0))
    x = np.ones((2, RATE), np.float32)
    y = rendered(FADES[where](keyframes(*levels)), Memory(m1=x))[0]
    shares = [float(y[9600 + k * FRAME]) for k in range(1, 5)]
    expected = [0.8, 0.6, 0.4, 0.2] if way == "out" else [0.2, 0.4, 0.6, 0.8]
    assert shares == pytest.approx(expected, abs=0.01)
    assert y[9600 + 6 * FRAME] == (0 if way == "out" else 1)


def test_between_levels_that_are_heard_it_moves_in_decibels():
    x = np.ones((2, RATE), np.float32)
    doc = document(RATE, clip={"gain_db": keyframes((0, 0), (RATE // 2, -40))})
    y = rendered(doc, Memory(m1=x))[0]
    assert 20 * np.log10(y[RATE // 4]) == pytest.approx(-20, abs=0.01)


def test_older_documents_keep_their_sound():
    level = keyframes((0, 0), (9600, -96), (20_000, -6, "hold"), (30_000, -96))
    span = treatment(0, RATE, effect("gain", level_db=keyframes((0, -120), (9600, 0))))
    doc = document(RATE, treatments=[span], clip={"gain_db": level})
    doc["mix"] = {"gain_db": keyframes((0, 0), (9600, -12))}
    patch = keep_straight_fades(doc)
    assert [step["path"] for step in patch] == [
        "/tracks/0/clips/0/gain_db/straight",
        "/tracks/0/treatments/0/effects/0/params/level_db/straight",
    ]
    for step in patch:
        assert step["value"] is True
    level["straight"] = True
    x = np.ones((2, RATE), np.float32)
    y = rendered(document(RATE, clip={"gain_db": level}), Memory(m1=x))[0]
    assert 20 * np.log10(y[4800]) == pytest.approx(-48, abs=0.01)
    assert keep_straight_fades(document(RATE, clip={"gain_db": level})) == []


def test_a_file_that_is_replaced_is_replaced_in_every_room():
    room = {"kind": "space", "params": {"file": "m1"}}
    chain = {"effects": [{"id": "e", **room}]}
    doc = document(RATE, treatments=[treatment(0, RATE, room)], clip={"treatment": chain})
    doc["tracks"][0]["treatment"] = chain
    doc["mix"] = {"treatment": chain}
    doc["media"].append({"id": "m2", "path": "m2.wav"})
    doc["picture"] = {"clips": [{"media": "m1", "start": 0, "length": RATE}]}
    for to in ("m2", "m3"):
        new = apply(doc, kind="relink_medium", id="m1", to=to, path="new.wav").document
        assert "m1" not in str(new["tracks"]) + str(new["mix"]) + str(new["picture"])
        assert str(new).count(f"'file': '{to}'") == 4
        read_reel(new)
    assert_all_is_undone_and_redone(
        doc, [{"kind": "relink_medium", "id": "m1", "to": "m2", "path": "new.wav"}]
    )
