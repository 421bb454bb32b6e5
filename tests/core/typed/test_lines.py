"""Effects typed with their values: understood as meant, or refused with the reason."""

from __future__ import annotations

import math
import random

import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.typed.search import find_effects
from bathyphon.core.typed.values import read_value, shown

F25 = {"f": 40.0, "beat": 500.0}
HALF = 20 * math.log10(0.5)

UNDERSTOOD = {
    "echo 86m 18%": ("echo", {"time_ms": 500.87, "feedback": 18}, {}),
    "18% echo 86m": ("echo", {"time_ms": 500.87, "feedback": 18}, {}),
    "86m 18% echo": ("echo", {"time_ms": 500.87, "feedback": 18}, {}),
    "Echo 350 ms": ("echo", {"time_ms": 350}, {}),
    "echo 1.2s": ("echo", {"time_ms": 1200}, {}),
    "echo 1,2 s, 30%": ("echo", {"time_ms": 1200, "feedback": 30}, {}),
    "echo time 12f": ("echo", {"time_ms": 480}, {}),
    "echo 12f": ("echo", {}, {"in": 12, "out": 12}),
    "echo 1/2 beat": ("echo", {"time_ms": 250}, {}),
    "echo 2 beats 40 %": ("echo", {"time_ms": 1000, "feedback": 40}, {}),
    "echo mix 100%": ("echo", {"mix": 100}, {}),
    "echo 100% mix": ("echo", {"mix": 100}, {}),
    "18% feedback 86m time echo": ("echo", {"time_ms": 500.87, "feedback": 18}, {}),
    "echo repeats 6 drop 4 dB": ("echo", {"repeats": 6, "drop_db": 4}, {}),
    "echo 6 repeats": ("echo", {"repeats": 6}, {}),
    "echo direct 75%": ("echo", {"dry_db": 20 * math.log10(0.75)}, {}),
    "echo level -6 dB": ("echo", {"level_db": -6}, {}),
    "echo right time 200ms": ("echo", {"right_time_ms": 200}, {}),
    "echo distance in water 20m": ("echo", {"medium": "water", "time_ms": 26.98}, {}),
    "echo high_cut_hz 4000": ("echo", {"high_cut_hz": 4000}, {}),
    "echo high cut = 4 kHz": ("echo", {"high_cut_hz": 4000}, {}),
    "pitch -3 st": ("pitch", {"semitones": -3}, {}),
    "pitch −3 st": ("pitch", {"semitones": -3}, {}),
    "pitch -3st 20ct": ("pitch", {"semitones": -3, "cents": 20}, {}),
    "pitch -3 st cents 20": ("pitch", {"semitones": -3, "cents": 20}, {}),
    "pitch -1 octave": ("pitch", {"semitones": -12}, {}),
    "pitch formants follow": ("pitch", {"formants": "follow"}, {}),
    "muffle high cut 500hz": ("muffle", {"high_cut_hz": 500}, {}),
    "muffle high cut 500 Hz": ("muffle", {"high_cut_hz": 500}, {}),
    "muffle 500 Hz": ("muffle", {"high_cut_hz": 500}, {}),
    "muffle low 80hz": ("muffle", {"low_cut_hz": 80}, {}),
    "muffle 3f −12dB": ("muffle", {"level_db": -12}, {"in": 3, "out": 3}),
    "muffle 3f, −12 dB 1.2 kHz": (
        "muffle", {"level_db": -12, "high_cut_hz": 1200}, {"in": 3, "out": 3}),
    "muffle 5f 0f low 80 Hz": ("muffle", {"low_cut_hz": 80}, {"in": 5, "out": 0}),
    "muffle ramp in 3f ramp out 9f": ("muffle", {}, {"in": 3, "out": 9}),
    "muffle ramps 200 ms": ("muffle", {}, {"in": 5, "out": 5}),
    "level −4db": ("gain", {"level_db": -4}, {}),
    "gain -6": ("gain", {"level_db": -6}, {}),
    "gain level -6": ("gain", {"level_db": -6}, {}),
    "gain 50%": ("gain", {"level_db": HALF}, {}),
    "quieter -9 dB": ("gain", {"level_db": -9}, {}),
    "reverb 6s mix 100%": ("reverb", {"decay_s": 6, "mix": 100}, {}),
    "reverb 800 ms": ("reverb", {"decay_s": 0.8}, {}),
    "reverb decay 50f": ("reverb", {"decay_s": 2}, {}),
    "reverb predelay 20ms": ("reverb", {"predelay_ms": 20}, {}),
    "reverb pre-delay 1f": ("reverb", {"predelay_ms": 40}, {}),
    "reverb treble 0.5": ("reverb", {"treble_decay": 0.5}, {}),
    "reverb freeze 1": ("reverb", {"freeze": 1}, {}),
    "hall 3s": ("reverb", {"decay_s": 3}, {}),
    "tremolo 4 Hz 50%": ("tremolo", {"rate_hz": 4, "swing": 50}, {}),
    "compress 4:1 -20dB": ("compress", {"ratio": 4, "threshold_db": -20}, {}),
    "compress ratio 4 attack 5ms": ("compress", {"ratio": 4, "attack_ms": 5}, {}),
    "orbit 12 m": ("orbit", {"distance": 12}, {}),
    "orbit direction 45°": ("orbit", {"azimuth": 45}, {}),
    "pan position -30": ("pan", {"position": -30}, {}),
    "crush 8 bits": ("crush", {"bits": 8}, {}),
    "limit ceiling -1 dB": ("limit", {"ceiling_db": -1}, {}),
}  # fmt: skip

REFUSED = {
    "echo 6": "“6” needs a unit, or the name of a value before it",
    "echo -6 dB": "“-6 dB” could be Drop, Direct or Echo level: name the one you mean",
    "echo feedback 150%": "Feedback must be between 0 % and 99 %, not “150%”",
    "echo feedback 500 Hz": "give Feedback in %, such as 40 %, not as “500 Hz”",
    "echo time 5 dB": "give Time in ms, s, f, m or beats, such as 350 ms, not as “5 dB”",
    "echo 3 st": "Echo has no value that “3 st” could be",
    "echo mix 20% mix 30%": "Mix is given twice",
    "echo direct 500%": "Direct must be between silent and 12.0 dB, not “500%”",
    "reverb 500 Hz": "“500 Hz” could be Low cut or High cut: name the one you mean",
    "reverb decay 90s": "Decay must be between 0.1 s and 30 s, not “90s”",
    "reverb 40 s": "Decay must be between 0.1 s and 30 s, not “40 s”",
    "muffle 3f 6f 9f": "a treatment has two ramps: in and out",
    "pitch 40 st": "Semitones must be between −24 st and 24 st, not “40 st”",
    "gain 1,000 dB": "“1,000” can mean 1.000 or 1000: type one of these",
    "crush bits 40": "Bits must be between 2 and 16, not “40”",
}


@pytest.mark.parametrize("text", UNDERSTOOD)
def test_a_line_is_understood_as_it_is_meant(text: str) -> None:
    kind, values, ramps = UNDERSTOOD[text]
    first = find_effects(text, F25)[0]
    if not first.preset:
        # What it comes with is there as well.
        values = {**EFFECTS[kind].table.added, **values}
    assert (first.effect, first.why) == (kind, "")
    assert {k: v for k, v in first.values.items() if isinstance(v, str)} == {
        k: v for k, v in values.items() if isinstance(v, str)
    }
    numbers = {k: v for k, v in values.items() if not isinstance(v, str)}
    found = {k: v for k, v in first.values.items() if not isinstance(v, str)}
    assert found == pytest.approx(numbers, rel=1e-4)
    assert first.ramps == ramps


@pytest.mark.parametrize("text", REFUSED)
def test_a_line_that_cannot_be_done_says_why(text: str) -> None:
    first = find_effects(text, F25)[0]
    assert first.why == REFUSED[text]


def test_what_would_change_nothing_as_it_comes_is_added_so_that_it_does() -> None:
    assert find_effects("gain", {})[0].values == {"level_db": -6}
    assert find_effects("gain 3 dB", {})[0].values == {"level_db": 3}


@pytest.mark.parametrize("seed", range(60))
def test_values_named_in_any_order_are_set_as_they_were_typed(seed: int) -> None:
    """Some values of an effect, by label, id or beginning, before or after their amounts."""
    rng = random.Random(seed)
    effect = rng.choice([e for e in EFFECTS.values() if len(e.parameters) > 1])
    numbers = [p for p in effect.parameters if not p.choices]
    rows = rng.sample(numbers, k=min(len(numbers), rng.randint(1, 3)))
    wanted = {}
    parts = [effect.label]
    names_first = rng.random() < 0.6
    for p in rows:
        amount = shown(
            p, round(rng.uniform(p.low, p.high)) if p.whole else rng.uniform(p.low, p.high)
        )
        if not amount[-1].isalnum() and p.unit == "":
            amount = amount.strip()
        if amount == "silent":
            continue
        wanted[p.id] = read_value(p, amount)
        name = rng.choice([p.label, p.id, p.label.upper()])
        parts.append(f"{name} {amount}" if names_first else f"{amount} {name}")
    head, *rest = parts
    rng.shuffle(rest)
    text = rng.choice([" ", ", "]).join([head, *rest])
    hits = [hit for hit in find_effects(text, F25) if hit.effect == effect.id and not hit.preset]
    assert hits, text
    assert not hits[0].why, (text, hits[0].why)
    expected = {**effect.table.added, **wanted}
    chosen = {k for k, v in expected.items() if isinstance(v, str)}
    assert all(hits[0].values[k] == expected[k] for k in chosen)
    found = {k: v for k, v in hits[0].values.items() if k not in chosen}
    expected = {k: v for k, v in expected.items() if k not in chosen}
    assert found == pytest.approx(expected), text
