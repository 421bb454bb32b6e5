"""Effects of a chain: put in the place of others, and given back the values they come with."""

from __future__ import annotations

from typing import Any

import pytest

from bathyphon.core.errors import Refused
from edits import apply, assert_all_is_undone_and_redone
from reels import document, effect, treatment


def reel() -> dict[str, Any]:
    echo = {**effect("echo", time_ms=500, mix=20), "id": "x1", "bypass": True}
    equaliser = {**effect("eq"), "id": "q1"}
    equaliser["params"] = {"bands": [{"freq_hz": 500, "gain_db": -6}]}
    duck = {**effect("duck", range_db=9, track="t2"), "id": "d1"}
    parts = [{**treatment(0, 24000, echo, equaliser, duck), "id": "f1"}]
    doc = document(48000, treatments=parts)
    doc["tracks"].append({"id": "t2", "name": "Voice"})
    return doc


def effects(doc: dict[str, Any]) -> list[dict[str, Any]]:
    return list(doc["tracks"][0]["treatments"][0]["effects"])


def after(**command: Any) -> dict[str, Any]:
    return dict(apply(reel(), **command).document)


def test_an_effect_is_reset_alone_or_with_all_of_its_chain() -> None:
    one = effects(after(kind="reset_effects", owner="treatment:f1", id="q1"))
    assert one[1]["params"] == {}
    assert [one[0], one[2]] == [effects(reel())[0], effects(reel())[2]]
    all_of_it = effects(after(kind="reset_effects", owner="treatment:f1"))
    # Whom an effect listens to, and whether it is on, is no value of its own.
    assert [e["params"] for e in all_of_it] == [{}, {}, {"track": "t2"}]
    assert all_of_it[0]["bypass"] is True
    assert_all_is_undone_and_redone(reel(), [{"kind": "reset_effects", "owner": "treatment:f1"}])


def test_a_reset_of_several_resets_what_is_alike_in_each() -> None:
    command = {"kind": "reset_effects", "owner": "treatment:f1", "id": "x1"}
    second = {**treatment(24000, 24000, {**effect("echo", mix=5), "id": "x2"}), "id": "f2"}
    doc = reel()
    doc["tracks"][0]["treatments"].append(second)
    found = apply(doc, kind="for_all", command=command, owners=["treatment:f2"]).document
    assert [t["effects"][0]["params"] for t in found["tracks"][0]["treatments"]] == [{}, {}]


def test_pasting_over_takes_the_place_of_all_that_is_there() -> None:
    muffle = {**effect("muffle"), "id": "m1"}
    command = {"kind": "add_effects", "effects": [muffle], "replace": True}
    assert [e["id"] for e in effects(after(owner="treatment:f1", **command))] == ["m1"]
    # Into an empty chain they simply go.
    mix = after(owner="mix", **command)["mix"]
    assert [e["id"] for e in mix["treatment"]["effects"]] == ["m1"]


def test_a_treatment_goes_to_another_track_as_itself() -> None:
    doc = reel()
    # One that listens to the other track cannot go there.
    with pytest.raises(Refused, match="cannot listen to itself"):
        apply(doc, kind="set_treatment", id="f1", track="t2")
    was = doc["tracks"][0]["treatments"][0]
    was["effects"] = was["effects"][:2]
    moved = apply(doc, kind="set_treatment", id="f1", track="t2", start={"sample": 1920}).document
    assert moved["tracks"][0]["treatments"] == []
    (there,) = moved["tracks"][1]["treatments"]
    assert {key: there[key] for key in was} == {**was, "start": 1920}
    to_and_fro = [{"kind": "set_treatment", "id": "f1", "track": t} for t in ("t2", "t2", "t1")]
    assert_all_is_undone_and_redone(doc, to_and_fro)


@pytest.mark.parametrize("rate", [44100, 48000])
def test_a_ring_out_that_is_fixed_is_two_minutes_at_most(rate: int) -> None:
    doc = document(300 * rate, rate=rate, treatments=[{**treatment(0, rate), "id": "f1"}])
    doc["picture"] = {"cuts": [200 * 25], "clips": []}
    change: dict[str, Any] = {"kind": "set_chain", "owner": "treatment:f1"}
    apply(doc, **change, ring_out=120 * rate)
    with pytest.raises(Refused, match=r"can be 120 s at most, not 120\.01 s"):
        apply(doc, **change, ring_out=round(120.01 * rate))
    with pytest.raises(Refused, match=r"can be 120 s at most, not 199\.00 s"):
        apply(doc, kind="ring_out_to", owner="treatment:f1", to="cut")
