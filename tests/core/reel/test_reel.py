"""Reading reels and refusing what is none."""

import copy
import json
from pathlib import Path

import jsonschema
import pytest

from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.reel.schema import reel_schema
from reels import document, effect, keyframes, treatment

SCHEMA = Path(__file__).parents[3] / "docs" / "reel.schema.json"

GOOD = document(
    480000,
    treatments=[
        treatment(
            96000,
            192000,
            effect("muffle", high_cut_hz=620, level_db=keyframes((0, 0, "linear"), (5760, -12))),
            ramp_in={"length": 5760, "shape": "linear"},
            ramp_out={"length": 11520},
        )
    ],
)


def test_a_good_reel_is_read_and_unknown_keys_are_kept():
    doc = GOOD | {"groups": [{"id": "g"}]}
    reel = read_reel(doc)
    assert reel.tracks[0].treatments[0].ramp_out.length == 11520
    assert reel.model_extra == {"groups": [{"id": "g"}]}


def test_the_shipped_schema_is_the_code_s_and_accepts_a_good_reel():
    shipped = json.loads(SCHEMA.read_text())
    assert shipped == json.loads(json.dumps(reel_schema()))
    jsonschema.Draft202012Validator(shipped).validate(GOOD)


FAULTS = [
    ("format", ("format",), "other", "expected"),
    ("version", ("version",), 2, "version 1"),
    ("sample_rate", ("sample_rate",), 48000.5, "a whole number, not"),
    ("frame_rate", ("frame_rate",), "fast", "25/1"),
    ("start_timecode", ("start_timecode",), "1 o'clock", "01:02:03:04"),
    ("tracks.0.clips.0.length", ("tracks", 0, "clips", 0, "length"), "long", "a whole number, not"),
    ("tracks.0.clips.0.length", ("tracks", 0, "clips", 0, "length"), True, "a whole number, not"),
    ("tracks.0.clips.0.media", ("tracks", 0, "clips", 0, "media"), "m9", "no medium"),
    ("tracks.0.gain_db", ("tracks", 0, "gain_db"), 90, "outside"),
    ("tracks.0.name", ("tracks", 0, "name"), "a\0b", "U+0000"),
    ("tracks.0.gain_db", ("tracks", 0, "gain_db"), float("nan"), "finite"),
    (
        "tracks.0.treatments.0.effects.0.kind",
        ("tracks", 0, "treatments", 0, "effects", 0, "kind"),
        "polish",
        "no effect",
    ),
    (
        "tracks.0.treatments.0.effects.0.params.high_cut_hz",
        ("tracks", 0, "treatments", 0, "effects", 0, "params", "high_cut_hz"),
        5,
        "outside 60 to 20000 Hz",
    ),
    (
        "tracks.0.treatments.0.effects.0.params.shine",
        ("tracks", 0, "treatments", 0, "effects", 0, "params", "shine"),
        1,
        "no parameter",
    ),
    (
        "tracks.0.treatments.0",
        ("tracks", 0, "treatments", 0, "ramp_in"),
        {"length": 192000},
        "more than the length",
    ),
    (
        "tracks.0.treatments.0.effects.0.params.level_db.keyframes.1.at",
        ("tracks", 0, "treatments", 0, "effects", 0, "params", "level_db"),
        keyframes((100, 0), (50, -3)),
        "rising order",
    ),
]


@pytest.mark.parametrize(("where", "path", "value", "message"), FAULTS)
def test_a_fault_is_refused_with_its_path(where, path, value, message):
    doc = copy.deepcopy(GOOD)
    node = doc
    for key in path[:-1]:
        node = node[key]
    node[path[-1]] = value
    with pytest.raises(Refused, match=message.replace("+", r"\+")) as caught:
        read_reel(doc)
    assert caught.value.where == where


def test_an_id_used_twice_is_refused():
    doc = copy.deepcopy(GOOD)
    doc["tracks"].append({"id": "t2", "clips": [doc["tracks"][0]["clips"][0]]})
    with pytest.raises(Refused, match="used twice"):
        read_reel(doc)


def test_nesting_without_end_is_refused():
    deep: dict = {}
    for _ in range(200):
        deep = {"a": deep}
    with pytest.raises(Refused, match="nested"):
        read_reel(GOOD | {"groups": deep})
