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
    marks = [] if long else ["-m", "not long"]
    pytest = [python, "-m", "pytest", *marks]
    if chosen:
        return [("chosen tests", [*pytest, *chosen])]
    return [
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
