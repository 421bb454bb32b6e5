"""``./bathyphon test``: linters, type checks, unit tests, server tests, browser tests."""

from __future__ import annotations

import os
import subprocess
import time
from collections.abc import Mapping

from database import Database
from environment import WEB, python_env
from steps import PYTHON, ROOT, VENV, say


def test(options: list[str]) -> int:
    """Run everything; ``--long`` adds soaks, fuzzing and two-hour reels."""
    long = "--long" in options
    chosen = [o for o in options if o != "--long"]
    database = Database()
    database.start()
    try:
        database.ensure("bathyphon_browser_test")
        env = {
            **os.environ,
            **python_env(),
            "DATABASE_URL": database.url("bathyphon"),
            "BATHYPHON_BROWSER_DATABASE_URL": database.url("bathyphon_browser_test"),
        }
        failed = [name for name, command in _steps(long, chosen) if not _step(name, command, env)]
    finally:
        database.stop()
    if failed:
        say(f"Failed: {', '.join(failed)}")
        return 1
    say("All passed.")
    return 0


def _steps(long: bool, chosen: list[str]) -> list[tuple[str, list[str]]]:
    python = str(PYTHON)
    marks = [] if long else ["-m", "not long"]
    pytest = [python, "-m", "pytest", *marks]
    if chosen:
        return [("chosen tests", [*pytest, *chosen])]
    binary = VENV / "bin"
    return [
        ("ruff", [str(binary / "ruff"), "check", "--no-cache", "."]),
        ("ruff format", [str(binary / "ruff"), "format", "--check", "."]),
        ("mypy", [str(binary / "mypy")]),
        ("imports", [str(binary / "lint-imports"), "--no-logo"]),
        ("eslint", ["npm", "run", "-s", "lint"]),
        ("prettier", ["npm", "run", "-s", "format"]),
        ("front end", ["npm", "run", "-s", "test"]),
        (
            "core, formats, checks and server",
            [*pytest, "-n", "2", "tests/core", "tests/formats", "tests/checks", "tests/server"],
        ),
        (
            "browser and system",
            [
                *pytest,
                "-p",
                "no:django",
                "-o",
                "DJANGO_SETTINGS_MODULE=",
                "-W",
                "ignore::pytest.PytestConfigWarning",
                "--durations=12",
                "tests/browser",
                "tests/system",
            ],
        ),
    ]


def _step(name: str, command: list[str], env: Mapping[str, str]) -> bool:
    say(f"— {name}")
    began = time.monotonic()
    cwd = WEB if command[0] == "npm" else ROOT
    code = subprocess.run(command, cwd=cwd, env=dict(env), check=False).returncode
    say(
        f"  {name}: {'passed' if code == 0 else f'FAILED ({code})'} in "
        f"{time.monotonic() - began:.0f} s"
    )
    return code == 0
