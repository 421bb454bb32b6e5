"""What the meters of the front end are tried on is what the core finds."""

import json

import pytest
from meters import CASES, PATH, found


@pytest.mark.parametrize("number", range(len(CASES)))
def test_the_written_cases_are_the_core_s(number):
    written = json.loads(PATH.read_text())[number]
    assert {k: v for k, v in written.items() if k != "found"} == CASES[number]
    for name, value in found(CASES[number]).items():
        if value is None:
            assert written["found"][name] is None
        else:
            assert written["found"][name] == pytest.approx(value, abs=1e-6)
