"""What moves beside effects: one table, for edits and for the front end."""

import json
from pathlib import Path

import pytest

from bathyphon.core.edits.commands.lanes import lane_of
from bathyphon.core.edits.movable import VALUES, plain
from reels import document, treatment

WEB = Path(__file__).parents[3] / "web" / "src" / "workbench" / "keyframes" / "values.json"
OWNERS = {"strength": "treatment:f", "pan": "track:t1"}


def test_the_front_end_has_the_same_table():
    told = f"run: python -m bathyphon.core.edits > {WEB}"
    assert json.loads(WEB.read_text()) == plain(), told


@pytest.mark.parametrize("value", VALUES, ids=lambda v: v.id)
def test_each_is_a_lane_of_its_owner(value):
    doc = document(48000, treatments=[{**treatment(0, 48000), "id": "f"}])
    lane = lane_of(doc, f"{OWNERS.get(value.id, 'clip:c1')}/{value.id}")
    assert (lane.low, lane.high, lane.default) == (value.low, value.high, value.default)
    assert (lane.id, lane.unit, lane.scale) == (value.id, value.unit, value.scale)
