"""Tests that listen are judged by what happened while the machine was whole."""

from pathlib import Path

import pytest

pytest_plugins = ["pytester"]
BROWSER = Path(__file__).parents[1] / "browser"
PLAIN = ["-p", "no:django", "-p", "no:cacheprovider"]

CONFTEST = f"""
import sys
sys.path.insert(0, {str(BROWSER)!r})
import withheld
from pathlib import Path
withheld.STAT, withheld.CALM_S, withheld.MOST_S = Path("stat"), 0, 0

def pytest_runtest_protocol(item, nextitem):
    for report in withheld.listen(item, nextitem, excused="excused" in item.name):
        item.ihook.pytest_runtest_logreport(report=report)
    return True
"""

TEST = """
from pathlib import Path
TRIED = Path("tried")
TRIED.write_text("")

def test_it{name}():
    TRIED.write_text(TRIED.read_text() + "x")
    tries = len(TRIED.read_text())
    stolen = {stolen}
    user, steal = [int(x) for x in Path("stat").read_text().split()[1::7]]
    Path("stat").write_text(f"cpu {{user + 100 - stolen}} 0 0 0 0 0 0 {{steal + stolen}} 0 0\\n")
    assert tries == {good}
"""


@pytest.mark.parametrize(
    ("stolen", "good", "tries", "outcome"),
    [
        ("0", 1, 1, {"passed": 1}),
        ("90", 1, 1, {"passed": 1}),  # what passes on half a machine passes
        ("0", 9, 1, {"failed": 1}),  # with the whole machine there is no excuse
        ("40", 2, 2, {"passed": 1}),
        ("40 if tries < 2 else 0", 9, 2, {"failed": 1}),
        ("40", 9, 3, {"skipped": 1}),
        ("8 if tries < 2 else 40", 9, 3, {"skipped": 1}),
        ("2", 9, 3, {"failed": 1}),  # a little stolen does not excuse three failures
    ],
)
def test_it_is_tried_again_only_while_time_is_withheld(pytester, stolen, good, tries, outcome):
    pytester.makeconftest(CONFTEST)
    pytester.makepyfile(TEST.format(stolen=stolen, good=good, name="_excused"))
    Path("stat").write_text("cpu 1000 0 0 0 0 0 0 0 0 0\n")
    result = pytester.runpytest_inprocess(*PLAIN)
    result.assert_outcomes(**outcome)
    assert len(Path("tried").read_text()) == tries
    if "skipped" in outcome:
        shown = pytester.runpytest_inprocess(
            "-rs", "-p", "no:django", "-p", "no:cacheprovider"
        ).stdout.str()
        first = "8" if "8" in stolen else "40"
        assert f"{first} %, 40 %, 40 % of the machine" in shown


@pytest.mark.parametrize(("good", "outcome"), [(2, {"passed": 1}), (9, {"failed": 1})])
def test_what_keeps_to_no_time_is_tried_again_and_never_excused(pytester, good, outcome):
    pytester.makeconftest(CONFTEST)
    pytester.makepyfile(TEST.format(stolen=40, good=good, name=""))
    Path("stat").write_text("cpu 1000 0 0 0 0 0 0 0 0 0\n")
    pytester.runpytest_inprocess(*PLAIN).assert_outcomes(**outcome)
    assert len(Path("tried").read_text()) == min(good, 3)
