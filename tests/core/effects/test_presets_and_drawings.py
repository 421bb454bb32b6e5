"""Presets are valid and move; drawings say what the sound does."""

from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.drawing.view import draw
from bathyphon.core.engine.plan import effect_settings
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import EffectPart
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.reel.values import effect_curves
from reels import document, effect, noise, treat, treatment

ALL = [(kind, preset.name) for kind in EFFECTS for preset in EFFECTS[kind].presets]


@pytest.mark.parametrize(("kind", "name"), ALL)
@pytest.mark.parametrize("length", [3, 480000])
def test_every_preset_is_within_its_effects_ranges(kind, name, length):
    part = EffectPart(id="e", kind=kind, params=EFFECTS[kind].preset(name, length))
    curves = effect_curves(part)
    assert curves
    ends = [c.keyframes[-1].at for c in curves.values() if len(c.keyframes) > 1]
    assert all(end >= length - 1 for end in ends)


@pytest.mark.parametrize("kind", [k for k in EFFECTS if EFFECTS[k].presets and k != "duck"])
def test_no_two_presets_of_an_effect_sound_alike(kind):
    # Some presets tell loud from soft, some sung notes from others.
    at = np.arange(48000)
    sung = noise(48000, 2, 0.1) + 0.3 * np.sign(np.sin(2 * np.pi * 240 * at / 48000))
    sound = sung * np.where(at // 9600 % 2, 1.0, 0.02)
    made = {
        preset.name: treat(kind, sound, **EFFECTS[kind].preset(preset.name, 48000))
        for preset in EFFECTS[kind].presets
    }
    for (one, a), (other, b) in combinations(made.items(), 2):
        assert np.std(a - b) > 0.01 * max(np.std(a), np.std(b)), (one, other)


def settings_of(kind, length=48000, **params):
    found = effect_settings(EffectPart(id="e", kind=kind, params=params), 48000)
    return replace(found, length=length)


@pytest.mark.parametrize("kind", EFFECTS)
def test_every_effect_can_be_drawn(kind):
    sound = noise(48000, 2, 0.2).astype(np.float64)
    drawing = draw(EFFECTS[kind], settings_of(kind), 0, sound)
    if kind == "duck":
        # It needs another track to listen to.
        assert drawing is None
        return
    assert drawing is not None
    assert drawing.lines or drawing.marks
    for line in drawing.lines:
        assert np.isfinite(line.x).all()
        assert np.isfinite(line.y).all()
    for grip in drawing.grips:
        for id in (grip.x_parameter, grip.y_parameter):
            assert not id or EFFECTS[kind].parameter(id)


def test_the_response_is_that_of_the_moment():
    sweep = {"keyframes": [{"at": 0, "value": 300}, {"at": 48000, "value": 3000}]}
    settings = settings_of("muffle", high_cut_hz=sweep)
    early, late = (draw(EFFECTS["muffle"], settings, at) for at in (0, 48000))
    level = lambda d: np.interp(1000, d.lines[-1].x, d.lines[-1].y)  # noqa: E731
    assert level(early) < -30
    assert level(late) > -1


def test_the_echo_pattern_has_its_times_levels_and_distances():
    drawing = draw(EFFECTS["echo"], settings_of("echo", time_ms=500, feedback=50), 0)
    repeats = [m for m in drawing.marks if m.style == "result"]
    assert [m.x for m in repeats[:3]] == pytest.approx([0.5, 1.0, 1.5])
    assert [m.y for m in repeats[:3]] == pytest.approx([-6.02, -12.04, -18.06], abs=0.5)
    assert "85.9 m" in repeats[0].label or "85.8 m" in repeats[0].label


def test_the_decay_line_reads_the_decay():
    drawing = draw(EFFECTS["reverb"], settings_of("reverb", decay_s=1.5, treble_decay=0.5), 0)
    facts = dict(fact.split(" ", 1) for fact in drawing.facts)
    assert float(facts["middle"].removesuffix(" s")) == pytest.approx(1.5, rel=0.1)
    assert float(facts["treble"].removesuffix(" s")) == pytest.approx(0.75, rel=0.15)


def test_a_compressors_curve_bends_at_its_threshold():
    settings = settings_of("compress", threshold_db=-30, ratio=4, knee_db=0)
    drawing = draw(EFFECTS["compress"], settings, 0)
    line = drawing.lines[-1]
    out = np.interp([-50, -10], line.x, line.y)
    assert out == pytest.approx([-50, -25], abs=0.2)


def edit(doc, **command):
    return apply_edit(doc, read_reel(doc), parse_command(command)).document


def test_a_preset_is_one_edit_that_keeps_whom_it_listens_to():
    doc = document(96000, treatments=[treatment(0, 48000, effect("orbit", spread=3))])
    doc = edit(doc, kind="apply_preset", owner="treatment:f1", id="e0", preset="Once around")
    params = doc["tracks"][0]["treatments"][0]["effects"][0]["params"]
    frames = params["azimuth"]["keyframes"]
    assert [(f["at"], f["value"]) for f in frames] == [(0, 0), (48000, 360)]
    assert params.keys() == {"azimuth"}
    read_reel(doc)
    with pytest.raises(Refused, match="has no preset"):
        edit(doc, kind="apply_preset", owner="treatment:f1", id="e0", preset="Nowhere")


def test_effects_are_pasted_in_one_step_and_into_chains_that_are_not_there_yet():
    doc = document(96000)
    pasted = [{"id": "a", "kind": "echo", "params": {}}, {"id": "b", "kind": "eq", "params": {}}]
    for owner in ("clip:c1", "track:t1", "mix"):
        fresh = [{**e, "id": e["id"] + owner[0]} for e in pasted]
        doc = edit(doc, kind="add_effects", owner=owner, effects=fresh)
    assert [e["kind"] for e in doc["mix"]["treatment"]["effects"]] == ["echo", "eq"]
    doc = edit(doc, kind="add_effects", owner="mix", effects=[{**pasted[0], "id": "z"}], index=1)
    assert [e["id"] for e in doc["mix"]["treatment"]["effects"]] == ["am", "z", "bm"]
    read_reel(doc)


def test_ring_out_to_the_next_cut_and_marker():
    doc = document(960000, treatments=[treatment(0, 48000, effect("echo"))],
                   picture={"cuts": [10, 40, 80]}, markers=[{"id": "k", "at": 60000}])  # fmt: skip
    doc = edit(doc, kind="ring_out_to", owner="treatment:f1", to="cut")
    assert doc["tracks"][0]["treatments"][0]["ring_out"] == 40 * 1920 - 48000
    doc = edit(doc, kind="ring_out_to", owner="treatment:f1", to="marker")
    assert doc["tracks"][0]["treatments"][0]["ring_out"] == 12000
    with pytest.raises(Refused, match="no marker after"):
        edit(doc, kind="ring_out_to", owner="clip:c1", to="marker")


def test_what_a_compressor_takes_is_drawn_over_time():
    n = 96000
    sound = np.full((2, n), 0.01)
    sound[:, n // 2 :] = 0.5
    sound[:, 1::2] *= -1
    params = {"threshold_db": -24, "ratio": 4, "knee_db": 0, "attack_ms": 1, "release_ms": 20}
    below = draw(EFFECTS["compress"], settings_of("compress", **params), 0, sound).beneath
    level, change = below.lines[0], below.lines[-1]
    assert np.interp(-0.5, change.x, change.y) == pytest.approx(0.0, abs=0.1)
    over = np.interp(0.5, level.x, level.y) + 24
    assert np.interp(0.5, change.x, change.y) == pytest.approx(-0.75 * over, abs=0.3)


def test_what_ducking_does_is_drawn_over_the_voice_it_gives_way_to():
    n = 96000
    music, voice = noise(n, 3, 0.1).astype(np.float64), np.zeros((2, n))
    voice[:, n // 2 :] = noise(n // 2, 4, 0.3)
    drawing = draw(EFFECTS["duck"], settings_of("duck", range_db=10), 0, music, voice)
    change = drawing.lines[-1]
    assert np.interp(-0.5, change.x, change.y) == pytest.approx(0.0, abs=0.2)
    assert np.interp(0.9, change.x, change.y) == pytest.approx(-10.0, abs=0.5)
