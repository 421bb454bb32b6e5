"""What a lane's value really is while its treatment sets in and lets go."""

import numpy as np
import pytest

from bathyphon.core.engine.effective import effective_strength, effective_values
from bathyphon.core.engine.plan import plan_of
from bathyphon.core.reel.model import Treatment

RATE = 48000


def plan(effects, **more):
    treatment = {
        "id": "f", "start": 0, "length": RATE, "effects": effects,
        "ramp_in": {"length": 4800}, "ramp_out": {"length": 9600, "shape": "bend", "bend": 0.5},
    } | more  # fmt: skip
    return plan_of(Treatment.model_validate(treatment), RATE, RATE, None)


def muffle(**params):
    return {"id": "e", "kind": "muffle", "params": {"high_cut_hz": 620, **params}}


def test_strength_is_its_curve_times_the_ramps():
    moving = {"keyframes": [{"at": 0, "value": 100}, {"at": RATE, "value": 50}]}
    places = np.array([0, 2400, 4800, 24000, RATE - 4800])
    found = effective_strength(plan([muffle()], strength=moving), places)
    curve = 100 - 50 * places / RATE
    ramp = np.array([0, 0.5, 1, 1, 0.5 ** (4**0.5)])
    assert np.allclose(found, curve * ramp, atol=1e-9)


def test_a_swept_value_is_between_neutral_and_target_on_its_own_scale():
    found = effective_values(plan([muffle()]), "e", "high_cut_hz", np.array([0, 2400, 4800]))
    assert found == pytest.approx([20000, (20000 * 620) ** 0.5, 620])
    half = effective_values(plan([muffle(amount=50)]), "e", "high_cut_hz", np.array([24000]))
    assert half == pytest.approx([(20000 * 620) ** 0.5])
    level = effective_values(plan([muffle(level_db=-12)]), "e", "level_db", np.array([2400]))
    assert level == pytest.approx([-6])


def test_where_strength_moves_no_value_there_is_none():
    echo = {"id": "e", "kind": "echo", "params": {}}
    assert effective_values(plan([echo]), "e", "time_ms", np.array([0])) is None
    behind = [{**echo, "id": "s"}, muffle()]
    assert effective_values(plan(behind), "e", "high_cut_hz", np.array([0])) is None
    assert effective_values(plan([muffle()]), "gone", "high_cut_hz", np.array([0])) is None
