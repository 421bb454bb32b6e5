"""Edits of thousands of parts: their work follows their size, and there is an end to it.

What is counted are calls, so that no machine's speed decides; seconds are told by ``bench/``.
"""

import sys

import pytest

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel
from reels import document, effect, treatment

FRAME = 1920
LEVEL = "clip:c0/gain_db"


def large(parts):
    """A reel of so many clips and half as many spans, and as many keyframes on the first."""
    doc = document(FRAME)
    track = doc["tracks"][0]
    track["clips"] = [
        {"id": f"c{i}", "media": "m1", "start": 20 * i * FRAME, "length": 10 * FRAME}
        for i in range(parts)
    ]
    track["treatments"] = [
        {**treatment(20 * i * FRAME, 10 * FRAME, effect("gain", level_db=-3)), "id": f"f{i}"}
        for i in range(parts // 2)
    ]
    track["clips"][0]["gain_db"] = {
        "keyframes": [{"at": i * FRAME, "value": -(i % 5) - 1.0} for i in range(parts)]
    }
    doc["tracks"].append({"id": "t2", "clips": [], "treatments": []})
    doc["poses"] = [{"id": "p", "name": "p", "values": {LEVEL: -9.0}}]
    doc["picture"] = {"clips": [], "cuts": list(range(100, 100 + parts))}
    return doc


def keys(n, **more):
    return [{"lane": LEVEL, "at": i * FRAME, **more} for i in range(n)]


def new_keys(n):
    return [
        {"lane": LEVEL, "moment": {"sample": i * FRAME + 100}, "value": -(i % 7) - 2.0}
        for i in range(n)
    ]


def clips(n):
    return [f"c{i}" for i in range(n)]


EDITS = {
    "put_keyframes": lambda n: {"keys": new_keys(n)},
    "move_keyframes": lambda n: {"keys": keys(n), "samples": 7, "share": 0.01},
    "set_keyframes": lambda n: {"keys": keys(n), "value": -4.0},
    "scale_keyframes": lambda n: {"keys": keys(n), "value": 0.5},
    "reverse_keyframes": lambda n: {"keys": keys(n)},
    "soften_keyframes": lambda n: {"keys": keys(n), "by": 1},
    "remove_keyframes": lambda n: {"keys": keys(n // 2)},
    "thin_keyframes": lambda n: {"keys": keys(n), "tolerance": 0.0},
    "record_keyframes": lambda n: {
        "lane": LEVEL, "turned": [{"at": i * 500, "value": -(i % 3) - 1.0} for i in range(n)],
        "tolerance": 0.0,
    },
    "stamp_poses": lambda n: {
        "run": ["p"], "moments": [{"frame": 3 * i + 1} for i in range(n)], "over": 1, "stamp": "s",
    },
    "unlink_keyframes": lambda n: {"keys": keys(n)},
    "move_clips": lambda n: {"ids": clips(n), "frames": 2},
    "move_clips to another track": lambda n: {"ids": clips(n), "frames": 0, "track": "t2"},
    "split_clips": lambda n: None,
    "copy_clips": lambda n: {
        "ids": clips(n), "new": [f"n{i}" for i in range(n)], "at": {"frame": 0}, "track": "t2",
    },
    "remove_clips": lambda n: {"ids": clips(n)},
    "remove_clips and close the gaps": lambda n: {"ids": clips(n), "close_gap": True},
    "set_speed": lambda n: {"ids": clips(n), "percent": 120.0, "ripple": True},
    "reset_speed": lambda n: {"ids": clips(n), "ripple": True},
    "copy_fades": lambda n: {"id": "c0", "to": clips(n)},
    "tie_clips": lambda n: {"ids": clips(n)},
    "bring_along": lambda n: {"ids": [f"f{i}" for i in range(n)], "frames": 1},
    "bring_along to another track": lambda n: {
        "ids": [f"f{i}" for i in range(n)], "frames": 1, "track": "t2",
    },
    "copy_treatment": lambda n: {
        "id": "f0", "copies": [{"id": f"n{i}", "start": {"frame": 9 * i}} for i in range(n)],
    },
    "add_markers": lambda n: {"markers": [{"id": f"k{i}", "at": i} for i in range(n)]},
    "set_cuts": lambda n: {"by": "finder", "cuts": [{"frame": 2 * i + 1} for i in range(n)]},
}  # fmt: skip


def calls(document, reel, command):
    """Python functions called by an edit."""
    count = 0

    def seen(frame, event, arg):
        nonlocal count
        count += event in ("call", "c_call")

    parsed = parse_command(command)
    sys.setprofile(seen)
    try:
        apply_edit(document, reel, parsed)
    finally:
        sys.setprofile(None)
    return count


@pytest.mark.parametrize("name", [name for name in EDITS if EDITS[name](1) is not None])
def test_twice_as_much_takes_twice_the_work(name):
    kind = name.split(" ")[0]
    counts = []
    for parts in (400, 800):
        doc = large(2 * parts)
        command = {"kind": kind, **EDITS[name](parts)}
        counts.append(calls(doc, read_reel(doc), command))
    assert counts[1] <= 2.3 * counts[0]


LIMITED = {
    "put_keyframes": "keys",
    "record_keyframes": "turned",
    "move_clips": "ids",
    "copy_treatment": "copies",
    "bring_along": "ids",
    "add_markers": "markers",
    "set_cuts": "cuts",
    "stamp_poses": "moments",
}


@pytest.mark.parametrize("kind", LIMITED)
def test_more_than_can_be_done_at_once_is_refused_with_the_limit(kind):
    command = {"kind": kind, **EDITS[kind](20_001)}
    with pytest.raises(Refused) as refused:
        parse_command(command)
    assert "at most" in refused.value.message
    assert refused.value.where.endswith(LIMITED[kind])


def test_what_would_move_too_much_along_is_refused_with_the_limit():
    doc = large(5000)
    command = {"kind": "remove_clips", "ids": ["c3"], "close_gap": True}
    with pytest.raises(Refused, match="at most 4000 can move along"):
        apply_edit(doc, read_reel(doc), parse_command(command))


def test_stamping_many_lanes_many_times_is_refused_with_the_limit():
    doc = large(20)
    values = {f"clip:c{i}/gain_db": -3.0 for i in range(20)}
    doc["poses"] = [{"id": "p", "name": "p", "values": values}]
    command = EDITS["stamp_poses"](1000)
    with pytest.raises(Refused, match="can be stamped at once"):
        apply_edit(doc, read_reel(doc), parse_command({"kind": "stamp_poses", **command}))
