"""Recipes: what they sound like, that they are one step, and that they can be taken back."""

from __future__ import annotations

import copy
from contextlib import suppress

import numpy as np
import pytest
from scenes import RATE, RATES, Bench, band, bursts, level, noise
from scipy.signal import fftconvolve

from bathyphon.core.edits.here import Place
from bathyphon.core.edits.prints import touched
from bathyphon.core.errors import Refused
from bathyphon.core.measure.decay import decay_times
from bathyphon.core.recipes import RECIPES
from soundtracks import speech
from thinned import in_turn, thinned


def sec(samples):
    return samples / RATE


def place_for(recipe, bench):
    """Where each recipe has what it needs."""
    at = bench.cuts[1] + 100
    return {
        "swell": Place(at=bench.cuts[2]),
        "ring_out": Place(at=bench.cuts[1]),
        "freeze": Place(at=bench.cuts[1]),
        "tape": Place(at=bench.cuts[1]),
        "same_place": Place(clip="c-music", other="c-voice"),
    }.get(recipe, Place(at=at))


def dry_line(seconds):
    line = speech(np.random.default_rng(4), seconds).astype(np.float32)
    return np.stack([line, line])


def in_a_room(seconds, decay_s=0.9):
    """Speech in a room that decays evenly."""
    rng = np.random.default_rng(3)
    n = round(1.2 * decay_s * RATE)
    h = 0.02 * rng.standard_normal(n) * 10 ** (-3 * np.arange(n) / RATE / decay_s)
    h[0] = 1.0
    x = fftconvolve(speech(rng, seconds), h)[: round(seconds * RATE)]
    return (0.5 * np.stack([x, x])).astype(np.float32)


def bench_for(recipe, rate="25/1"):
    sounds = {"voice": noise(20.0, 1), "music": noise(20.0, 2)}
    if recipe == "same_place":
        sounds = {"voice": in_a_room(20.0), "music": dry_line(20.0)}
    bench = Bench(rate, 20.0, **sounds)
    if recipe == "around":
        bench.edit(kind="add_markers", markers=[
            {"id": f"k{i}", "at": RATE * (2 + 3 * i), "label": ""} for i in range(4)
        ])  # fmt: skip
    if recipe == "fit_line":
        bench.edit(kind="set_clip", id="c-voice", start=bench.cuts[0], length=round(4.5 * RATE))
    return bench


@pytest.mark.parametrize(("recipe", "rate"), in_turn(RECIPES, RATES))
def test_a_recipe_is_carried_out_recorded_and_taken_back(recipe, rate):
    bench = bench_for(recipe, rate)
    before = copy.deepcopy(bench.document)
    plan = bench.cook(recipe, place_for(recipe, bench))
    assert plan.span is not None
    assert plan.span.end > plan.span.start
    (made,) = bench.document["made"]
    assert made["recipe"] == recipe
    assert set(made["answers"]) == {row.id for row in RECIPES[recipe].table.questions}
    assert touched(bench.document, made) == []
    bench.take_back()
    # What was laid is gone; media that came stay on the shelf, empty lists stay lists.
    assert bench.document["made"] == []
    assert [plain(t) for t in bench.document["tracks"]] == [plain(t) for t in before["tracks"]]


def plain(track):
    """A track without what says nothing."""
    clips = []
    for clip in track["clips"]:
        clip = {k: v for k, v in clip.items() if v not in (0.0, {"effects": []})}
        if not any(clip.get("speed", {}).get(k, 0) for k in ("semitones", "cents")):
            clip.pop("speed", None)
        for fade in ("fade_in", "fade_out"):
            if not clip.get(fade, {}).get("length"):
                clip.pop(fade, None)
        clips.append(clip)
    return {**track, "clips": clips}


@pytest.mark.parametrize("recipe", RECIPES)
def test_what_was_touched_since_is_told(recipe):
    bench = bench_for(recipe)
    bench.cook(recipe, place_for(recipe, bench))
    made = bench.document["made"][0]
    part = made["parts"][0]
    kind, _, rest = part.partition(":")
    if kind == "treatment":
        bench.edit(kind="set_treatment", id=rest, name="Mine")
    elif kind == "effect":
        owner, _, id = rest.partition("|")
        bench.edit(kind="set_effect", owner=owner, id=id, params={}, bypass=True)
    elif kind == "clip":
        bench.edit(kind="set_clip", id=rest, gain_db=-7.0)
    else:
        id = rest.split("|")[0].removeprefix("clip:")
        bench.edit(kind="trim_clip", id=id, edge="end", to={"sample": RATE * 7})
        bench.edit(kind="set_clip", id=id, length=RATE * 6)
    assert part in touched(bench.document, made)


@pytest.mark.parametrize("recipe", RECIPES)
def test_answers_that_make_no_sense_are_refused(recipe):
    bench = bench_for(recipe)
    place = place_for(recipe, bench)
    for row in RECIPES[recipe].table.questions:
        wrong = "nowhere" if row.choices else row.high + 1
        with pytest.raises(Refused, match=row.label.split(" ")[0]):
            bench.plan(recipe, place, **{row.id: wrong})
    with pytest.raises(Refused, match="does not ask"):
        bench.plan(recipe, place, sauce=1)


@pytest.mark.parametrize("seed", thinned(range(8), 8))
@pytest.mark.parametrize("recipe", RECIPES)
def test_any_answers_make_a_reel_that_sounds(recipe, seed):
    chance = np.random.default_rng(seed)
    bench = bench_for(recipe, RATES[seed % len(RATES)])
    answers = {
        row.id: row.choices[chance.integers(len(row.choices))]
        if row.choices
        else float(chance.uniform(row.low, min(row.high, 60)))
        for row in RECIPES[recipe].table.questions
    }
    with suppress(Refused):
        bench.cook(recipe, place_for(recipe, bench), **answers)
    assert np.isfinite(bench.heard()).all()


@pytest.mark.parametrize("decay", [1.5, 4.0])
@pytest.mark.parametrize("capture", [8, 25])
def test_a_tail_begins_where_the_music_was_and_decays_as_asked(decay, capture):
    bench = Bench(music=noise(20.0, 2))
    cut = bench.cuts[1]
    bench.cook("ring_out", Place(at=cut + 3000), decay=decay, capture=capture)
    assert bench.document["tracks"][0]["clips"][0]["length"] == cut
    x = bench.heard()
    before = level(x, sec(cut) - 1.5, sec(cut) - 1.1)
    assert level(x, sec(cut) + 0.01, sec(cut) + 0.11) == pytest.approx(before, abs=3.5)
    found = [
        b.t30 or b.t20 for b in decay_times(x[:, cut + 2400 :], RATE) if 400 < b.centre_hz < 1100
    ]
    assert np.mean([f for f in found if f]) == pytest.approx(decay, rel=0.25)


def test_too_short_a_clip_cannot_ring_out():
    bench = Bench(music=noise(0.3, 2))
    with pytest.raises(Refused, match="frames"):
        bench.plan("ring_out", Place(at=1000), capture=100)


def test_music_ends_with_the_picture_and_rings_out():
    bench = Bench(seconds=12, music=noise(20.0, 2))
    end = bench.document["picture"]["clips"][0]["length"]
    bench.document["tracks"][0]["clips"][0]["length"] = 20 * RATE
    bench.cook("end_with_picture", Place(at=RATE))
    clip = bench.document["tracks"][0]["clips"][0]
    assert clip["start"] + clip["length"] == end
    x = bench.heard()
    assert level(x, sec(end) + 0.1, sec(end) + 0.4) > level(x, sec(end) - 2, sec(end) - 1.5) - 10


@pytest.mark.parametrize("early", [0, 1, 900, 40_000, 150_000])
def test_music_ends_before_the_last_beat_that_is_near(early):
    bench = Bench(seconds=12, music=noise(20.0, 2))
    end = bench.document["picture"]["clips"][0]["length"]
    bench.document["tracks"][0]["clips"][0]["length"] = 20 * RATE
    bench.beats["c-music"] = [RATE, end - early, end + 9000]
    for on, heard in (("before the last beat", early < 2 * RATE), ("exactly there", False)):
        plan = bench.cook("end_with_picture", Place(at=RATE), on=on)
        clip = bench.document["tracks"][0]["clips"][0]
        wanted = end - early - round(0.01 * RATE) if heard else end
        assert clip["start"] + clip["length"] == wanted
        assert any("beat" in said for said in plan.said) is (on == "before the last beat")
        bench.take_back()


@pytest.mark.parametrize(("off", "snaps"), [(0, True), (-3, True), (3, True), (6, False)])
def test_a_tail_begins_at_a_beat_that_is_near_unless_a_cut_is(off, snaps):
    bench = Bench(music=noise(20.0, 2))
    beat = bench.cuts[1] - 40 * 1920
    bench.beats["c-music"] = [beat + k * RATE // 2 for k in range(8)]
    at = beat + off * 1920
    bench.cook("ring_out", Place(at=at))
    length = bench.document["tracks"][0]["clips"][0]["length"]
    assert length == (beat - round(0.01 * RATE) if snaps else at)
    bench.take_back()
    bench.cook("ring_out", Place(at=bench.cuts[1] - 3 * 1920))
    assert bench.document["tracks"][0]["clips"][0]["length"] == bench.cuts[1]


@pytest.mark.parametrize("depth", [0, 50, 100])
def test_below_the_surface_is_dark_between_the_cuts_alone(depth):
    bench = Bench(voice=noise(20.0, 1))
    cut, back = bench.cuts[1], bench.cuts[2]
    bench.cook("below_surface", Place(at=cut + 5000), depth=depth, bed="none")
    x = bench.heard()
    under = x[:, cut + RATE : back - RATE]
    above = x[:, RATE : cut - RATE // 2]
    assert band(under, 6000, 9000) < band(above, 6000, 9000) - 18
    assert band(under, 80, 200) > band(above, 80, 200) - 10
    ramp = round(6 * RATE / 25)
    np.testing.assert_array_equal(x[:, : cut - 1], bench.media.sounds["voice"][:, : cut - 1])
    after = x[:, back + ramp : back + ramp + RATE]
    assert band(after, 6000, 9000) == pytest.approx(band(above, 6000, 9000), abs=1.0)


def test_beds_lie_from_cut_to_cut_above_and_below():
    bench = Bench(voice=noise(20.0, 1, 0.01))
    bench.cook("below_surface", Place(at=bench.cuts[1] + 5000), above="waves")
    beds = [c for t in bench.document["tracks"] for c in t["clips"] if c.get("bed")]
    assert sorted(c["start"] for c in beds) == [bench.cuts[0], bench.cuts[1], bench.cuts[2]]
    assert {c["name"] for c in beds} == {"Under water", "Lapping water"}
    assert len(bench.document["tracks"]) == 2


def test_taken_back_it_leaves_the_bed_that_lay_before_it_as_it_was():
    bench = Bench(voice=noise(20.0, 1))
    first, second = bench.cuts[1], bench.cuts[2]
    id, path, length = bench.media.made("wind", {}, 5.0, "Wind", 1)
    bench.edit(
        kind="lay_bed", media=id, path=path, sound={"samples": length, "rate": RATE}, clip="b",
        start={"sample": bench.cuts[0]}, end={"sample": first}, new_track="n",
    )  # fmt: skip
    before = copy.deepcopy(bench.document["tracks"])
    bench.cook("below_surface", Place(start=first, end=second))
    (wind, _) = bench.document["tracks"][1]["clips"]
    assert wind["start"] + wind["length"] > first
    bench.take_back()
    assert [plain(t) for t in bench.document["tracks"]] == [plain(t) for t in before]


@pytest.mark.parametrize("lost", ["prints", "parts", "back"])
def test_one_that_somebody_has_written_is_no_hindrance(lost):
    bench = bench_for("answer")
    bench.cook("answer", place_for("answer", bench))
    made = {k: v for k, v in bench.document["made"][0].items() if k != lost}
    assert touched(bench.document, made) == (made["parts"] if lost == "prints" else [])


@pytest.mark.parametrize("metres", [20.0, 85.8, 300.0])
@pytest.mark.parametrize("db", [-6.0, -18.0])
def test_an_answer_comes_after_there_and_back_as_loud_as_asked(metres, db):
    bench = Bench(voice=bursts(20.0, 6.0, 1.0))
    bench.cook("answer", Place(at=RATE), metres=metres, level=db, times=1)
    x = bench.heard()
    call = x[:, RATE : RATE + 3840]
    delay = round(2 * metres / 343.2 * RATE)
    answer = x[:, RATE + delay : RATE + delay + 3840]
    both = np.correlate(answer[0], call[0], "full")
    assert abs(int(np.argmax(np.abs(both))) - (call.shape[1] - 1)) < 30
    # Below the treble that air has taken, it is as loud as was asked for.
    assert band(answer, 300, 1200) - band(call, 300, 1200) == pytest.approx(db, abs=1.0)


def test_a_phone_has_the_band_of_a_phone():
    bench = Bench(voice=noise(20.0, 1))
    bench.cook("voice_from", Place(at=RATE), place="phone")
    x = bench.heard()[:, RATE : 6 * RATE]
    inside = band(x, 700, 2500)
    assert band(x, 60, 150) < inside - 20
    assert band(x, 6000, 9000) < inside - 20


@pytest.mark.parametrize("kind", ["radio", "next room", "small loudspeaker", "car"])
def test_other_places_are_narrower_than_the_voice(kind):
    bench = Bench(voice=noise(20.0, 1))
    bench.cook("voice_from", Place(at=RATE), place=kind)
    x = bench.heard()[:, RATE : 6 * RATE]
    bare = bench.media.sounds["voice"][:, RATE : 6 * RATE]
    lost = (band(x, 8000, 12000) - band(x, 400, 800)) - (
        band(bare, 8000, 12000) - band(bare, 400, 800)
    )
    assert lost < -3


@pytest.mark.parametrize("rate", RATES)
def test_a_line_ends_at_the_cut_its_pitch_held(rate):
    tone = (0.2 * np.sin(2 * np.pi * 220 * np.arange(20 * RATE) / RATE)).astype(np.float32)
    bench = Bench(rate, voice=np.stack([tone, tone]))
    first = bench.cuts[0]
    bench.edit(kind="set_clip", id="c-voice", start=first, length=round(4.5 * RATE))
    bench.cook("fit_line", Place(at=first + 100))
    clip = bench.document["tracks"][0]["clips"][0]
    assert clip["start"] + clip["length"] == bench.cuts[1]
    x = bench.heard()[0, first + RATE : first + 2 * RATE]
    spectrum = np.abs(np.fft.rfft(x * np.hanning(x.size), 8 * RATE))
    assert np.argmax(spectrum) / 8 == pytest.approx(220, abs=1.5)


def test_a_line_that_would_be_hurried_says_so():
    bench = Bench(voice=noise(20.0, 1))
    bench.edit(kind="set_clip", id="c-voice", start=bench.cuts[0], length=round(6.0 * RATE))
    with pytest.raises(Refused, match=r"150 % of its speed; natural speech goes from 85 to 125"):
        bench.plan("fit_line", Place(at=bench.cuts[0] + 10))
    bench.cook("fit_line", Place(at=bench.cuts[0] + 10), manner="hurried")


def test_a_slowed_song_sinks_with_its_speed():
    tone = (0.2 * np.sin(2 * np.pi * 440 * np.arange(20 * RATE) / RATE)).astype(np.float32)
    bench = Bench(voice=np.stack([tone, tone]))
    bench.edit(kind="set_clip", id="c-voice", length=8 * RATE)
    bench.cook("slowed", Place(at=RATE), speed=80, space=0)
    assert bench.document["tracks"][0]["clips"][0]["length"] == 10 * RATE
    x = bench.heard()[0, RATE : 3 * RATE]
    spectrum = np.abs(np.fft.rfft(x * np.hanning(x.size), 8 * RATE))
    assert np.argmax(spectrum) / 8 == pytest.approx(352, abs=1)


@pytest.mark.parametrize("way", ["stop", "start"])
def test_a_tape_runs_down_or_up_with_its_pitch(way):
    tone = (0.2 * np.sin(2 * np.pi * 440 * np.arange(20 * RATE) / RATE)).astype(np.float32)
    bench = Bench(voice=np.stack([tone, tone]))
    cut = bench.cuts[1]
    bench.cook("tape", Place(at=cut), way=way, over=2.0)
    x = bench.heard()[0]

    def pitch(at: int) -> float:
        part = x[at : at + 4800]
        turns = np.flatnonzero((part[:-1] < 0) & (part[1:] >= 0))
        return float((turns.size - 1) / ((turns[-1] - turns[0]) / RATE))

    # Half way down it plays at half its speed.
    middle = cut - RATE - 2400 if way == "stop" else RATE - 2400
    assert pitch(middle) == pytest.approx(220, rel=0.06)
    steady = cut - 3 * RATE if way == "stop" else 3 * RATE
    assert pitch(steady) == pytest.approx(440, rel=0.01)
    if way == "stop":
        assert np.abs(x[cut:]).max() == 0


def test_a_swell_rises_into_its_hit():
    bench = Bench(voice=noise(20.0, 1, 0.02))
    at = bench.cuts[2]
    flat = bench.heard()
    bench.cook("swell", Place(at=at), length=3.0, depth=18)
    x = bench.heard()
    # Long after the hit all else is lower, and at the end of the shot as it was.
    assert level(x, sec(at) + 3, sec(at) + 3.4) == pytest.approx(
        level(flat, sec(at) + 3, sec(at) + 3.4) - 6, abs=0.5
    )
    end = sec(bench.cuts[3])
    assert level(x, end, end + 0.5) == pytest.approx(level(flat, end, end + 0.5), abs=0.5)
    steps = [level(x, sec(at) - 3 + k * 0.6, sec(at) - 2.4 + k * 0.6) for k in range(5)]
    assert steps == sorted(steps)
    assert steps[-1] - steps[0] > 8
    assert level(x, sec(at), sec(at) + 0.5) > steps[0] + 6


@pytest.mark.parametrize("sharp", [0.0, 50.0, 100.0])
def test_around_the_head_it_is_where_the_markers_say(sharp):
    bench = bench_for("around")
    bench.document["tracks"].pop()
    bench.cook("around", Place(at=RATE), turn=90.0, distance=1.0, sharp=sharp)
    x = bench.heard()

    def leaning(at: float) -> float:
        part = x[:, round((at - 0.1) * RATE) : round(at * RATE)]
        left, right = (part**2).mean(axis=1)
        return float(10 * np.log10(right / left))

    after = 0.1 if sharp < 100 else 0.25
    # 90° to the right at the first marker, behind at the second, to the left at the third.
    assert leaning(2 + after) > 3
    assert abs(leaning(5 + after)) < 3
    assert leaning(8 + after) < -3


@pytest.mark.parametrize("over", [0, 10])
def test_sides_answer_the_cuts(over):
    bench = Bench(voice=noise(20.0, 1))
    bench.cook("sides", Place(at=RATE), order="left, right", wide=100, over=over)
    x = bench.heard()
    for k, (a, b) in enumerate(zip([0, *bench.cuts], [*bench.cuts, 20 * RATE], strict=True)):
        left, right = (x[:, a + 2400 : b - RATE] ** 2).mean(axis=1)
        assert (left > 20 * right) if k % 2 == 0 else (right > 20 * left)


def test_what_stands_in_the_air_stands_and_goes_when_it_should():
    bench = Bench(voice=noise(20.0, 1))
    cut = bench.cuts[1]
    bench.cook("freeze", Place(at=cut), hold=5.0)
    x = bench.heard()
    first, last = level(x, sec(cut) + 0.5, sec(cut) + 1), level(x, sec(cut) + 3.0, sec(cut) + 3.5)
    assert abs(first - last) < 4
    assert first > level(x, sec(cut) - 2, sec(cut) - 1) - 15
    assert level(x, sec(cut) + 6.7, sec(cut) + 7) < first - 40


def test_near_to_far_is_quieter_and_darker_at_its_end():
    bench = Bench(voice=noise(20.0, 1))
    bench.cook("near_far", Place(at=RATE), begins=1.0, ends=40.0, room=0)
    end = bench.cuts[0]
    x = bench.heard()
    near, far = x[:, :9600], x[:, end - 9600 : end]
    assert band(near, 200, 800) - band(far, 200, 800) > 12
    assert (band(near, 200, 800) - band(far, 200, 800)) < (
        band(near, 8000, 12000) - band(far, 8000, 12000) - 6
    )


@pytest.mark.parametrize("which", ["memory", "dream"])
def test_a_memory_comes_and_goes_with_its_ramps(which):
    bench = Bench(voice=noise(20.0, 1))
    bench.cook("memory", Place(start=4 * RATE, end=10 * RATE), way=which)
    x = bench.heard()
    np.testing.assert_array_equal(
        x[:, : 4 * RATE - 2400], bench.media.sounds["voice"][:, : 4 * RATE - 2400]
    )
    inside = np.abs(x[:, 6 * RATE : 8 * RATE] - bench.media.sounds["voice"][:, 6 * RATE : 8 * RATE])
    assert inside.max() > 0.05


@pytest.mark.parametrize("voice", ["deeper", "stranger", "mechanical", "small and quick"])
def test_another_voice_is_another(voice):
    from soundtracks import speech

    bench = Bench(voice=np.tile(speech(np.random.default_rng(1), 10.0), (2, 1)).astype(np.float32))
    bench.cook("other_voice", Place(at=RATE), voice=voice, far=80)
    x, bare = bench.heard(), bench.media.sounds["voice"]
    moved = band(x, 60, 140) - band(bare, 60, 140)
    assert (moved > 1) if voice == "deeper" else np.abs(x[:, :RATE] - bare[:, :RATE]).max() > 0.01


@pytest.mark.parametrize(
    ("what", "kinds"),
    [
        ("room, tone and level", ["reverb", "eq", "gain"]),
        ("room and tone", ["reverb", "eq"]),
        ("room alone", ["reverb"]),
        ("tone alone", ["eq"]),
    ],
)
def test_a_line_gets_just_what_is_asked_of_the_others_place(what, kinds):
    bench = bench_for("same_place")
    plan = bench.cook("same_place", place_for("same_place", bench), what=what)
    (clip,) = bench.document["tracks"][1]["clips"]
    effects = clip["treatment"]["effects"]
    assert [e["kind"] for e in effects] == kinds
    if effects[0]["kind"] == "reverb":
        assert effects[0]["params"]["decay_s"] == pytest.approx(0.9, rel=0.2)
        assert any("rings for" in said for said in plan.said)


@pytest.mark.parametrize("late", [0.0, 1.3, 45.0])
def test_the_other_clip_is_heard_from_where_it_sounds(late):
    bench = bench_for("same_place")
    silence = np.zeros((2, round(late * RATE)), np.float32)
    sound = np.concatenate([silence, bench.media.sounds["voice"]], axis=1)
    bench.media.sounds["voice"] = sound
    bench.edit(kind="set_clip", id="c-voice", length=sound.shape[1])
    bench.cook("same_place", Place(clip="c-music", other="c-voice"))
    (clip,) = bench.document["tracks"][1]["clips"]
    assert clip["treatment"]["effects"][0]["params"]["decay_s"] == pytest.approx(0.9, rel=0.2)


@pytest.mark.parametrize(
    ("seconds", "short"), in_turn([0.02, 0.15, 0.25, 0.4, 1.0], ["music", "voice"])
)
def test_a_short_clip_is_matched_or_refused_in_a_sentence(short, seconds):
    bench = bench_for("same_place")
    at = RATE // 2
    bench.media.sounds[short] = bench.media.sounds[short][:, at : at + round(seconds * RATE)]
    bench.edit(kind="set_clip", id=f"c-{short}", length=round(seconds * RATE))
    with suppress(Refused):
        bench.cook("same_place", Place(clip="c-music", other="c-voice"))
        assert np.isfinite(bench.heard()).all()


def test_a_clip_that_is_silent_says_so():
    bench = bench_for("same_place")
    bench.media.sounds["voice"] = np.zeros((2, 20 * RATE), np.float32)
    with pytest.raises(Refused, match="silent"):
        bench.plan("same_place", Place(clip="c-music", other="c-voice"))


def test_half_the_strength_is_half_the_way():
    whole, half = (bench_for("same_place") for _ in range(2))
    for bench, strength in ((whole, 100), (half, 50)):
        bench.cook("same_place", place_for("same_place", bench), strength=strength)
    params = [
        [e["params"] for e in b.document["tracks"][1]["clips"][0]["treatment"]["effects"]]
        for b in (whole, half)
    ]
    assert params[1][0]["mix"] == pytest.approx(params[0][0]["mix"] / 2, abs=0.1)
    assert params[1][2]["level_db"] == pytest.approx(params[0][2]["level_db"] / 2, abs=0.1)


def test_it_says_which_clips_it_needs_and_what_it_cannot_hear():
    bench = bench_for("same_place")
    with pytest.raises(Refused, match="select two clips"):
        bench.plan("same_place", Place(clip="c-music"))
    steady = bench_for("answer")
    with pytest.raises(Refused, match="room of the other clip cannot be told"):
        steady.plan("same_place", Place(clip="c-voice", other="c-music"))


def test_thicker_voices_are_wider():
    bench = Bench(seconds=3.0, voice=noise(3.0, 1))
    for way in ("doubled", "choir of one", "harmony"):
        bench.cook("thick_voice", Place(at=RATE), way=way)
        x = bench.heard()[:, RATE : 5 * RATE // 2]
        assert np.corrcoef(x)[0, 1] < 0.985
        bench.take_back()


def test_without_what_it_needs_a_recipe_says_what_is_missing():
    bench = Bench(voice=noise(2.0))
    with pytest.raises(Refused, match="select the clip"):
        bench.plan("answer", Place(at=15 * RATE))
    with pytest.raises(Refused, match="no markers"):
        bench.plan("around", Place(at=RATE))
    with pytest.raises(Refused, match="no cut lies within"):
        bench.plan("sides", Place(at=RATE))
    with pytest.raises(Refused, match="before the playhead"):
        bench.plan("swell", Place(at=RATE), length=10)
