"""``./bathyphon test``: linters, type checks, unit tests, server tests, browser tests."""

from __future__ import annotations

import os
import subprocess
import time
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor

from database import Database
from environment import WEB, python_env
from steps import PYTHON, ROOT, VENV, say

BROWSER_DATABASES = [f"bathyphon_browser_test{worker}" for worker in ("", "_gw0", "_gw1")]
"""One for tests that run alone, one for each of two workers."""

WITHOUT_BROWSER = ["tests/core", "tests/formats", "tests/checks", "tests/server"]


def test(options: list[str]) -> int:
    """Run everything; ``--long`` adds soaks, fuzzing and two-hour reels."""
    long = "--long" in options
    chosen = [o for o in options if o != "--long"]
    database = Database()
    database.start()
    try:
        for name in BROWSER_DATABASES:
            database.ensure(name)
        env = {
            **os.environ,
            **python_env(),
            "DATABASE_URL": database.url("bathyphon"),
            "BATHYPHON_BROWSER_DATABASE_URL": database.url(BROWSER_DATABASES[0]),
        }
        failed = [] if chosen else _beside_each_other(_quick_steps(), env)
        failed += [name for name, command in _steps(long, chosen) if not _step(name, command, env)]
    finally:
        database.stop()
    if failed:
        say(f"Failed: {', '.join(failed)}")
        return 1
    say("All passed.")
    return 0


def _quick_steps() -> list[tuple[str, list[str]]]:
    binary = VENV / "bin"
    return [
        ("mypy", [str(binary / "mypy")]),
        ("ruff", [str(binary / "ruff"), "check", "--no-cache", "."]),
        ("ruff format", [str(binary / "ruff"), "format", "--check", "."]),
        ("imports", [str(binary / "lint-imports"), "--no-logo"]),
        ("eslint", ["npm", "run", "-s", "lint"]),
        ("prettier", ["npm", "run", "-s", "format"]),
        ("front end", ["npm", "run", "-s", "test"]),
    ]


def _beside_each_other(steps: list[tuple[str, list[str]]], env: Mapping[str, str]) -> list[str]:
    """Run what keeps one processor busy two at a time; names of what failed."""
    with ThreadPoolExecutor(2) as pool:
        passed = list(pool.map(lambda step: _step(*step, env, apart=True), steps))
    return [name for (name, _), good in zip(steps, passed, strict=True) if not good]


def _steps(long: bool, chosen: list[str]) -> list[tuple[str, list[str]]]:
    python = str(PYTHON)
    marks = "" if long else "not long"
    pytest = [python, "-m", "pytest"]
    if chosen:
        return [("chosen tests", [*pytest, "-m", marks, *chosen])]
    # They start the application themselves.
    apart = ["-p", "no:django", "-o", "DJANGO_SETTINGS_MODULE="]
    apart += ["-W", "ignore::pytest.PytestConfigWarning", "--durations=12"]
    alone = "alone or long" if long else "alone and not long"
    return [
        (
            "core, formats, checks and server",
            [*pytest, "-m", marks, "-n", "2", "--durations=12", *WITHOUT_BROWSER],
        ),
        (
            "browser",
            [*pytest, "-m", "not alone and not long", "-n", "2", *apart, "tests/browser"],
        ),
        (
            "what is heard, and system",
            [*pytest, "-m", alone, *apart, "tests/browser", "tests/system"],
        ),
    ]


def _step(name: str, command: list[str], env: Mapping[str, str], apart: bool = False) -> bool:
    """Run a step; what one that runs ``apart`` says is shown when it has ended."""
    if not apart:
        say(f"— {name}")
    began = time.monotonic()
    done = subprocess.run(
        command,
        cwd=WEB if command[0] == "npm" else ROOT,
        env=dict(env),
        check=False,
        stdout=subprocess.PIPE if apart else None,
        stderr=subprocess.STDOUT if apart else None,
        text=True,
    )
    code, spent = done.returncode, time.monotonic() - began
    report = f"  {name}: {'passed' if code == 0 else f'FAILED ({code})'} in {spent:.0f} s"
    say(f"— {name}\n{done.stdout}{report}" if apart else report)
    return code == 0
