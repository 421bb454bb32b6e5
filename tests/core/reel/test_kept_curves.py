"""Curves that are kept for what an edit leaves as it is go when that goes."""

import gc

from bathyphon.core.reel import values
from bathyphon.core.reel.model import EffectPart


def part(value):
    moving = {"keyframes": [{"at": 0, "value": value}, {"at": 10, "value": 500.0}]}
    return EffectPart(id="e", kind="muffle", params={"high_cut_hz": moving})


def test_a_thousand_edits_of_an_effect_leave_the_curves_of_one():
    gc.collect()
    before = len(values._curves)
    kept = part(300.0)
    first = values.effect_curves(kept)["high_cut_hz"]
    for k in range(1000):
        values.effect_curves(part(300.0 + k))
    gc.collect()
    assert len(values._curves) <= before + 1
    assert values.effect_curves(kept)["high_cut_hz"] is first
