"""From a value of a document to a curve, or to a sentence that says what is wrong."""

import pytest

from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import EffectPart, Keyframes
from bathyphon.core.reel.values import check_movable, effect_curves, effect_of, movable_curve


def curves(kind, **params):
    return effect_curves(EffectPart(id="e", kind=kind, params=params), "here")


def test_a_number_is_a_curve_that_stands_keyframes_one_that_moves():
    assert curves("gain", level_db=-3)["level_db"].keyframes[0].value == -3.0
    moving = {"keyframes": [{"at": 0, "value": -6, "ease": "smooth"}, {"at": 9, "value": 0}]}
    curve = curves("gain", level_db=moving)["level_db"]
    assert [(k.at, k.value, k.ease) for k in curve.keyframes] == [
        (0, -6.0, "smooth"),
        (9, 0.0, "linear"),
    ]
    assert curve.scale == "db"


def test_a_choice_is_given_by_name_or_by_number_and_used_by_its_index():
    assert curves("pan", law="-6 dB")["law"].keyframes[0].value == 2.0
    assert curves("pan", law=-6)["law"].keyframes[0].value == 2.0


def test_entries_of_a_group_are_completed_each():
    found = curves("eq", bands=[{"freq_hz": 300}, {"type": "notch"}])
    assert found["bands.0.freq_hz"].keyframes[0].value == 300.0
    assert found["bands.1.freq_hz"].keyframes[0].value == 1000.0
    assert found["bands.1.type"].keyframes[0].value == 5.0


@pytest.mark.parametrize(
    ("kind", "params", "where", "said"),
    [
        ("gain", {"level": 3}, "here.params.level", "gain has no parameter “level”; it has level"),
        ("gain", {"level_db": 99}, "here.params.level_db", "99 is outside -96 to 24 dB"),
        ("gain", {"level_db": "loud"}, "here.params.level_db", "expected a number, not 'loud'"),
        ("gain", {"level_db": True}, "here.params.level_db", "expected a number, not True"),
        ("echo", {"repeats": 2.5}, "here.params.repeats", "expected a whole number, not 2.5"),
        ("pan", {"law": "loud"}, "here.params.law", "expected one of “-3 dB”, “-4.5 dB”, “-6 dB”"),
        ("eq", {"bands": {}}, "here.params.bands", "expected a list of at most 8"),
        ("eq", {"bands": [3]}, "here.params.bands.0", "expected an object"),
        ("duck", {"track": 3}, "here.params.track", "expected the id of a track, not 3"),
        ("space", {"stretch": {"keyframes": [{"at": 0, "value": 50}]}}, "here.params.stretch",
         "Stretch cannot have keyframes"),
        ("gain", {"level_db": {"keyframes": []}}, "here.params.level_db.keyframes", "expected"),
        ("gain", {"level_db": {"keyframes": [{"at": 5, "value": 0}, {"at": 5, "value": 1}]}},
         "here.params.level_db.keyframes.1.at", "keyframes must come in rising order of time"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_said_with_its_place(kind, params, where, said):
    with pytest.raises(Refused) as refused:
        curves(kind, **params)
    assert refused.value.where == where
    assert said in refused.value.message


def test_an_unknown_effect_is_refused_with_those_there_are():
    with pytest.raises(Refused, match="there is no effect “wobble”; there are muffle, reverb"):
        effect_of(EffectPart(id="e", kind="wobble"), "here")


def test_bounds_hold_for_numbers_and_for_every_keyframe():
    check_movable(10.0, (0.0, 20.0), "speed")
    frames = Keyframes.model_validate(
        {"keyframes": [{"at": 0, "value": 5}, {"at": 9, "value": 30}]}
    )
    with pytest.raises(Refused) as refused:
        check_movable(frames, (0.0, 20.0), "speed")
    assert refused.value.where == "speed.keyframes.1.value"
    assert movable_curve(frames).largest == 30.0


def test_the_same_part_has_the_same_curves():
    part = EffectPart(id="e", kind="gain", params={"level_db": -3})
    first, second = effect_curves(part), effect_curves(part)
    assert first["level_db"] is second["level_db"]
    # Who changes what they are given changes nobody else's.
    first.clear()
    assert effect_curves(part)
