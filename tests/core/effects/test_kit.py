"""What all effects share: found by themselves, tables at once, the rest when it is asked for."""

import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.engagement import engaged_blend, engaged_sweep, swept
from bathyphon.core.effects.kit.pages import page
from bathyphon.core.effects.kit.preset import Preset, moving, placed, preset_params
from bathyphon.core.effects.kit.settings import completed
from bathyphon.core.effects.kit.table import Group, Parameter, Pattern, Table
from bathyphon.core.errors import Refused
from bathyphon.core.timing.curves import Curve, Keyframe
from reels import Memory, document, effect, rendered, treatment

RATE = 48000
ROW = Parameter("freq_hz", "Frequency", "Hz", 20.0, 20000.0, "log", 1000.0, neutral=20000.0)
TABLE = Table(
    id="made",
    label="Made",
    place=1,
    engages="sweep",
    parameters=(
        ROW,
        Parameter("left", "Left", "%", 0.0, 100.0, "linear", 40.0),
        Parameter("right", "Right", "%", 0.0, 100.0, "linear", None, follows="left"),
        Parameter("share", "Share", "%", 0.0, 100.0, "linear", 100.0, strength=True),
        Parameter("law", "Law", "", 0.0, 2.0, "linear", 0.0, choices=("-3 dB", "-6 dB", "none")),
    ),
    telling=("freq_hz",),
    hatch=Pattern("lines"),
    group=Group("bands", "Band", 3, (ROW,)),
)


def test_effects_come_in_their_places_and_no_two_share_one():
    places = [effect.table.place for effect in EFFECTS.values()]
    assert places == sorted(set(places))


def test_a_sound_is_imported_when_it_is_first_made():
    code = """
import sys
from bathyphon.core.effects import EFFECTS
first = [name for name in sys.modules if name.endswith((".sound", ".drawing", ".presets"))]
EFFECTS["gain"].make(EFFECTS["gain"].settings({}, 48000))
then = [name for name in sys.modules if name.endswith(".sound")]
print(first, then)
"""
    said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert said.stdout.strip() == "[] ['bathyphon.core.effects.gain.sound']"


def test_rows_are_found_by_name_those_of_a_group_by_their_number():
    assert TABLE.parameter("left").label == "Left"
    assert TABLE.parameter("bands.2.freq_hz") is ROW
    assert TABLE.parameter("bands.3.freq_hz") is None
    assert TABLE.parameter("bands.x.freq_hz") is None
    assert TABLE.parameter("bands.0.left") is None
    assert TABLE.strength == "share"


def test_choices_are_named_in_full_by_their_number_or_by_their_beginning():
    law = TABLE.parameter("law")
    assert [law.chosen(v) for v in ("-6 dB", -6, "-6", "none", "all")] == [1, 1, 1, 2, None]


def test_settings_are_completed_by_defaults_and_by_what_they_follow():
    given = {"left": Curve((Keyframe(0, 10.0), Keyframe(100, 60.0)))}
    settings = completed(TABLE, given, RATE, {"side": "t2"})
    assert settings.fixed("freq_hz") == 1000.0
    assert settings.curves["right"] is given["left"]
    assert settings.given == {"left"}
    assert settings.refers == {"side": "t2"}
    assert settings.moves("left", "share")
    assert not settings.moves("freq_hz")
    assert settings.values("right", 50, 1)[0] == 35.0


def test_a_swept_parameter_comes_from_neutral_in_its_scale():
    settings = completed(TABLE, {}, RATE)
    depth = np.array([0.0, 0.5, 1.0])
    found = swept(TABLE, settings, "freq_hz", 0, depth)
    assert found[0] == 20000.0
    assert abs(found[1] - np.sqrt(20000.0 * 1000.0)) < 1e-9
    assert found[2] == 1000.0
    # What has no neutral value does not glide.
    assert set(swept(TABLE, settings, "left", 0, depth)) == {40.0}


def test_engagement_begins_with_what_came_in_and_ends_with_what_was_made():
    x, fx = np.zeros((2, 3)), np.ones((2, 3))
    assert engaged_blend(x, fx, np.array([0.0, 0.25, 1.0]))[0].tolist() == [0.0, 0.25, 1.0]
    # A sweep is heard as a whole as soon as it has left its neutral settings.
    assert engaged_sweep(x, fx, np.array([0.0, 0.01, 0.02]))[0].tolist() == [0.0, 0.5, 1.0]
    assert engaged_sweep(x, fx, np.full(3, 0.5)) is fx


def test_a_preset_s_keyframes_lie_at_shares_of_its_owner_and_never_on_one_another():
    params = {"pan": moving((0.0, -80), (0.5, 0), (1.0, 80)), "width": 90}
    found = placed(params, 1000)
    assert [k["at"] for k in found["pan"]["keyframes"]] == [0, 500, 1000]
    assert found["width"] == 90
    assert [k["at"] for k in placed(params, 1)["pan"]["keyframes"]] == [0, 1, 2]
    # The preset itself stays what it is.
    assert params["pan"]["keyframes"][0]["share"] == 0.0


def test_an_unknown_preset_is_refused_with_those_there_are():
    presets = (Preset("Near", "Close by.", {"mix": 10}), Preset("Far", "Away.", {"mix": 90}))
    assert preset_params("made", presets, "Far", 10) == {"mix": 90}
    with pytest.raises(Refused, match="made has no preset “Nowhere”; it has Near, Far"):
        preset_params("made", presets, "Nowhere", 10)


def test_every_effect_says_what_to_listen_for_and_the_page_is_the_code_s():
    for one in EFFECTS.values():
        advice = one.advice
        assert all(text.endswith(".") for text in (advice.listen, advice.start, advice.avoid))
    shipped = (Path(__file__).parents[3] / "docs" / "effects.md").read_text()
    assert shipped == page(EFFECTS.values())


def test_a_narrow_notch_has_settled_when_its_span_begins():
    """A hum of 50 Hz rings in a notch of Q 24 for more than a second."""
    n = 6 * RATE
    hum = (0.02 * np.sin(2 * np.pi * 50 * np.arange(n) / RATE) * np.ones((2, 1))).astype(np.float32)
    notch = effect("eq", bands=[{"type": "notch", "freq_hz": 50, "q": 24}])
    reel = document(n, treatments=[treatment(3 * RATE, 2 * RATE, notch)])
    y = rendered(reel, Memory(m1=hum))
    left = np.abs(y[:, 3 * RATE + RATE // 50 : 5 * RATE - RATE // 50]).max()
    assert left < 0.02 * 10 ** (-60 / 20)
