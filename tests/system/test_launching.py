"""What the launcher says of trouble, and what it does without."""

import sys
from pathlib import Path

import pytest

sys.path.insert(0, str(Path(__file__).parents[2] / "tools" / "launch"))
debian = pytest.importorskip("debian")
steps = pytest.importorskip("steps")

QUERY = """Traceback (most recent call last):
  File "x.py", line 1, in <module>
django.db.utils.ProgrammingError: relation "auth_user" does not exist
LINE 1: ..."auth_user"."date_joined" FROM "auth_user"
                                          ^
"""


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (QUERY, 'django.db.utils.ProgrammingError: relation "auth_user" does not exist'),
        ("one\nCommandError: there is no account\n\n", "CommandError: there is no account"),
        ("   only this", "only this"),
        ("", ""),
    ],
)
def test_trouble_is_told_by_the_line_that_says_it(text, said):
    assert steps.last_said(text) == said


@pytest.mark.parametrize(("instead", "does"), [("/usr/bin/other", True), (None, False)])
def test_what_does_as_well_is_taken_where_the_better_cannot_be_had(monkeypatch, instead, does):
    def cannot(*_args, **_more):
        raise steps.Trouble("no network")

    monkeypatch.setattr(debian, "run", cannot)
    monkeypatch.setattr(
        debian, "needs", lambda *_: [debian.Need("a browser", ("shell",), None, instead)]
    )
    if does:
        debian.ensure(browser=True)
    else:
        with pytest.raises(steps.Trouble):
            debian.ensure(browser=True)
