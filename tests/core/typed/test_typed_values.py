"""Values as people type them: understood as they are meant, or refused; never something else."""

from __future__ import annotations

import json
import math
import random
from pathlib import Path
from typing import Any

import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.errors import Refused
from bathyphon.core.listen.findings import CHECKS
from bathyphon.core.typed.spellings import UNITS, plain
from bathyphon.core.typed.values import read_value, shown

ROWS = json.loads(Path(__file__).with_name("values.json").read_text())
WEB = Path(__file__).parents[3] / "web" / "src" / "typed" / "spellings.json"
PARAMETERS = [
    (f"{effect.id}.{p.id}", p)
    for effect in EFFECTS.values()
    for p in (
        *effect.table.parameters,
        *(effect.table.group.parameters if effect.table.group else ()),
    )
    if not p.choices
]


def parameter_of(name: str) -> Parameter:
    kind, _, id = name.partition(".")
    if kind == "findings":
        t = next(t for check in CHECKS for t in check.thresholds if t.id == id)
        return Parameter(t.id, t.label, t.unit, t.least, t.most, "linear", t.value)
    table = EFFECTS[kind].table
    group = table.group.parameters if table.group else ()
    return next(p for p in (*table.parameters, *group) if p.id == id)


@pytest.mark.parametrize("row", ROWS, ids=lambda row: f"{row['of']} {row['known']}")
def test_typed_values_are_understood_or_refused(row: dict[str, Any]) -> None:
    parameter = parameter_of(row["of"])
    for text, value in row["understood"].items():
        assert read_value(parameter, text, row["known"]) == pytest.approx(value, rel=1e-9), text
    for text, why in row["refused"].items():
        with pytest.raises(Refused) as refused:
            read_value(parameter, text, row["known"])
        assert refused.value.message == why, text


def test_the_table_of_values_is_about_the_real_parameters() -> None:
    """The front end tries its reader on these rows: they must say what the effects' tables say."""
    assert sum(len(row["understood"]) + len(row["refused"]) for row in ROWS) > 300
    for row in ROWS:
        parameter = parameter_of(row["of"])
        assert row["parameter"] == {key: getattr(parameter, key) for key in row["parameter"]}


def test_the_front_end_has_the_same_spellings() -> None:
    told = "run: python -m bathyphon.core.typed > web/src/typed/spellings.json"
    assert json.loads(WEB.read_text()) == json.loads(json.dumps(plain())), told


@pytest.mark.parametrize(("name", "parameter"), PARAMETERS, ids=[name for name, _ in PARAMETERS])
def test_what_is_shown_can_be_typed(name: str, parameter: Parameter) -> None:
    """Whatever stands in a field is understood when it is typed again, and means the same."""
    rng = random.Random(name)
    values = [parameter.low, parameter.high, rng.uniform(parameter.low, parameter.high)]
    for value in values:
        written = shown(parameter, round(value) if parameter.whole else value)
        again = read_value(parameter, written)
        assert shown(parameter, again) == written
        bare = written.removesuffix(parameter.unit).strip()
        assert read_value(parameter, bare) == again


@pytest.mark.parametrize("seed", range(40))
def test_nothing_typed_at_random_means_something_else(seed: int) -> None:
    """Numbers with any unit: either they have a unit of the same measure and its size, or not."""
    rng = random.Random(seed)
    spelled = plain()["spellings"]
    for _ in range(100):
        _, parameter = rng.choice(PARAMETERS)
        measure = rng.choice(sorted(spelled))
        word = rng.choice(sorted(spelled[measure]))
        number = round(rng.uniform(-200, 200), rng.choice((0, 1, 2)))
        known = {"f": 40.0, "m": 2.9, "beat": 500.0}
        try:
            value = read_value(parameter, f"{number:g}{rng.choice(['', ' '])}{word}", known)
        except Refused:
            continue
        assert parameter.low <= value <= parameter.high
        unit = UNITS.get(parameter.unit)
        if unit is None:  # a place between the sides, or a number of times
            assert value == number
        elif word in ("%", "percent") and unit.measure == "level":
            assert 10 ** (value / 20) == pytest.approx(number / 100, abs=2e-5)
        elif unit.measure == "time" and word in ("m", "metre", "metres", "meter", "meters"):
            assert value * (unit.size or known["f"]) == pytest.approx(number * 2.9)
        elif parameter.unit == "f":
            assert value * known["f"] == pytest.approx(number * spelled["time"][word])
        else:
            same = spelled[unit.measure].get(word)
            assert same is not None
            assert math.isclose(value * unit.size, number * same, rel_tol=1e-9, abs_tol=1e-9)


def test_what_is_rounded_away_has_no_sign() -> None:
    level = EFFECTS["gain"].parameter("level_db")
    assert level
    assert [shown(level, v) for v in (-0.04, 0.04, -0.06)] == ["0.0 dB", "0.0 dB", "−0.1 dB"]
