"""No effect clicks where it sets in, nor where a parameter steps (ENGINE rules, section 8)."""

import numpy as np
import pytest
from test_clicks import RATE, N, click_db

from bathyphon.core.effects import EFFECTS
from reels import Memory, document, effect, keyframes, rendered, treatment

# What bends the wave or adds noise makes treble of its own: it is judged against a slow change.
HARSH = ("drive", "crush", "ring", "telephone")
STEP = 20_000
WORST_PHASE = 0.25 - 200 * STEP / RATE % 1
"""At which the tone is at its peak where the step comes: that clicks most."""
EACH_ONCE = [(WORST_PHASE,), pytest.param((0.0, 0.25, 0.5, 0.75), marks=pytest.mark.long)]
"""Phases of the tone; every day one for each case."""


def rows():
    for kind, table in EFFECTS.items():
        for p in table.parameters:
            if p.movable:
                yield kind, p.id, p


def within(p, share):
    """A value within the range, not at its very ends."""
    if p.scale == "log":
        return p.low * (p.high / p.low) ** share
    return p.low + (p.high - p.low) * share


def heard(kind, params, start, length, phase):
    t = np.arange(N) / RATE
    x = (0.5 * np.sin(2 * np.pi * (200 * t + phase))).astype(np.float32)
    more = {"ring_out": 2400} if EFFECTS[kind].engages == "send" else {}
    doc = document(N, treatments=[treatment(start, length, effect(kind, **params), **more)])
    return rendered(doc, Memory(m1=np.stack([x, x])))


def worst(kind, params, start, length, phases):
    return max(
        click_db(side, STEP)
        for phase in phases
        for side in heard(kind, params, start, length, phase)
    )


@pytest.mark.parametrize("phases", EACH_ONCE)
@pytest.mark.parametrize("kind", [k for k in EFFECTS if k not in HARSH])
def test_it_sets_in_without_a_click(kind, phases):
    params = {"bands": [{"type": "peak", "freq_hz": 300, "gain_db": 18}]} if kind == "eq" else {}
    assert worst(kind, params, STEP, 12_000, phases) <= -70


@pytest.mark.parametrize("phases", EACH_ONCE)
@pytest.mark.parametrize(("kind", "id", "p"), [r for r in rows() if r[0] not in HARSH])
def test_a_parameter_steps_without_a_click(kind, id, p, phases):
    low, high = within(p, 0.25), within(p, 0.75)
    if p.unit == "ms":
        # Within what fits into this short sound.
        low, high = min(low, 60.0), min(high, 150.0)
    frames = keyframes((0, low, "hold"), (STEP - 4_000, high, "hold"))
    mix = {"mix": 100} if EFFECTS[kind].parameter("mix") and id != "mix" else {}
    assert worst(kind, {**mix, id: frames}, 4_000, 40_000, phases) <= -70


@pytest.mark.parametrize(
    ("id", "low", "high"), [("freq_hz", 300, 3000), ("gain_db", -18, 18), ("q", 0.5, 8)]
)
@pytest.mark.parametrize("phases", EACH_ONCE)
@pytest.mark.parametrize("kind", ["peak", "low_shelf", "high_cut", "low_cut", "notch"])
def test_a_band_steps_without_a_click(kind, id, low, high, phases):
    frames = keyframes((0, low, "hold"), (STEP - 4_000, high, "hold"))
    band = {"type": kind, "freq_hz": 800, "gain_db": 6, id: frames}
    assert worst("eq", {"bands": [band]}, 4_000, 40_000, phases) <= -70


@pytest.mark.parametrize(("kind", "id", "p"), [r for r in rows() if r[0] in HARSH])
def test_what_is_harsh_steps_no_harsher_than_it_moves(kind, id, p):
    low, high = within(p, 0.3), within(p, 0.7)
    step = keyframes((0, low, "hold"), (STEP - 4_000, high, "hold"))
    slow = keyframes((0, low), (STEP - 12_000, low), (STEP + 4_000, high))
    fast, gentle = (worst(kind, {id: f}, 4_000, 40_000, (0.0, 0.5)) for f in (step, slow))
    assert fast <= max(gentle + 6, -60)
