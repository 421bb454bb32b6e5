"""Effects are found by words, with values typed beside them."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

import pytest

pytestmark = pytest.mark.django_db


def ask(api: Any, **query: Any) -> Any:
    return api.get(f"/api/effects/found?{urlencode(query)}")


def test_a_typed_line_is_understood(api) -> None:
    found = ask(api, text="echo 86m 12f mix 100%", frame=40)
    first = found.json()["hits"][0]
    assert first["effect"] == "echo"
    assert first["values"]["mix"] == 100
    assert first["values"]["time_ms"] == pytest.approx(501, abs=1)
    assert first["ramps"] == {"in": 12, "out": 12}
    assert first["said"] == "Time 501 ms, Mix 100 %, ramps 12 f"


def test_what_nothing_goes_by_is_told(api) -> None:
    assert ask(api, text="frobnicate 3s").json() == {
        "hits": [],
        "unknown": ["frobnicate"],
    }


def test_nonsense_is_refused_and_long_lines_too(api) -> None:
    assert ask(api, text="a" * 5000).status_code == 422
    assert ask(api, text="echo", frame=-1).status_code == 422
    # No text at all is what no database holds.
    assert ask(api, text="a\0").status_code == 422
    for text in ("1/0 s", "((((", "9" * 180, "echo " + "1" * 150 + "ms", "— – −", "ß İ"):
        assert ask(api, text=text).status_code == 200
