"""``./bathyphon test``: linters, type checks, unit tests, server tests, browser tests."""

from __future__ import annotations

import os
import subprocess
import tempfile
import time
from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor

from database import Database
from environment import WEB, python_env
from steps import PYTHON, ROOT, VENV, say

BROWSER_DATABASES = [f"bathyphon_browser_test{worker}" for worker in ("", "_gw0", "_gw1")]
"""One for tests that run alone, one for each of two workers."""

PYTEST = [str(PYTHON), "-m", "pytest"]
Step = tuple[str, list[str]]

WITHOUT_BROWSER = [f"tests/{part}" for part in ("core", "formats", "checks", "server", "system")]


def test(options: list[str]) -> int:
    """Run everything; ``--long`` adds soaks, fuzzing and two-hour reels."""
    long = "--long" in options
    chosen = [o for o in options if o != "--long"]
    database = Database(tests=True)
    database.start()
    data = tempfile.TemporaryDirectory(prefix="bathyphon-tests-", ignore_cleanup_errors=True)
    try:
        for name in BROWSER_DATABASES:
            database.ensure(name)
        env = {
            **os.environ,
            **python_env(),
            "DATABASE_URL": database.url("bathyphon"),
            "BATHYPHON_BROWSER_DATABASE_URL": database.url(BROWSER_DATABASES[0]),
            "BATHYPHON_TEST_DATA": data.name,
        }
        if long:
            env["VITE_LONG"] = "1"
        failed = _chosen(chosen, long, env) if chosen else _everything(long, env)
    finally:
        database.stop()
        data.cleanup()
    if failed:
        say(f"Failed: {', '.join(failed)}")
        return 1
    say("All passed.")
    return 0


def _quick_steps() -> list[Step]:
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


def _everything(long: bool, env: Mapping[str, str]) -> list[str]:
    """Run all steps; names of those that failed.

    A browser has to be waited for, and leaves half of the machine with nothing to do. What only
    computes fills that half: it runs behind the others, and gets what they leave. What gives
    somebody so many seconds for something does not: it might be left none. What measures how soon
    something is heard is tried after all of it, with the machine for itself.
    """
    core, shown = _without_browser(long), [_by_the_clock(long), _browser(), _heard(long)]
    if long or not hasattr(os, "SCHED_IDLE"):
        failed = _beside_each_other(_quick_steps(), env)
        failed += _one_by_one([core, *shown], env)
    else:
        ended = _behind(core, env)
        try:
            failed = _beside_each_other(_quick_steps(), env)
            failed += _one_by_one(shown, env)
        finally:
            # Whatever happens, it does not go on without the database.
            passed = ended()
        failed += [] if passed else [core[0]]
    return failed + _one_by_one([_alone(long)], env)


def _chosen(tests: list[str], long: bool, env: Mapping[str, str]) -> list[str]:
    step = ("chosen tests", [*PYTEST, "-m", "" if long else "not long", *tests])
    return [] if _step(*step, env) else [step[0]]


def _one_by_one(steps: list[Step], env: Mapping[str, str]) -> list[str]:
    """Run steps; names of what failed."""
    return [step[0] for step in steps if not _step(*step, env)]


def _beside_each_other(steps: list[Step], env: Mapping[str, str]) -> list[str]:
    """Run what keeps one processor busy two at a time; names of what failed."""
    with ThreadPoolExecutor(2) as pool:
        passed = list(pool.map(lambda step: _step(*step, env, apart=True), steps))
    return [name for (name, _), good in zip(steps, passed, strict=True) if not good]


def _behind(step: Step, env: Mapping[str, str]) -> Callable[[], bool]:
    """Start a step that takes only what nobody else wants; its result waits for it to end.

    Once there is nothing else to do it goes on like any other.
    """
    name, command = step
    said = tempfile.TemporaryFile(mode="w+", errors="replace")  # noqa: SIM115
    began = time.monotonic()
    running = subprocess.Popen(
        command, cwd=ROOT, env=dict(env), stdout=said, stderr=subprocess.STDOUT
    )
    os.sched_setscheduler(running.pid, os.SCHED_IDLE, os.sched_param(0))

    def report() -> bool:
        code = running.wait()
        said.seek(0)
        _report(name, code, time.monotonic() - began, said.read())
        said.close()
        return code == 0

    return report


def _without_browser(long: bool) -> Step:
    marks = "not by_the_clock" + ("" if long else " and not long")
    name = "core, formats, checks, server and system"
    return name, [*PYTEST, "-m", marks, "-n", "2", "--durations=12", *WITHOUT_BROWSER]


def _by_the_clock(long: bool) -> Step:
    marks = "by_the_clock" + ("" if long else " and not long")
    clocked = ["tests/server", "tests/system"]
    return "what keeps to the clock", [*PYTEST, "-m", marks, "-n", "2", "--durations=5", *clocked]


# They start the application themselves.
APART = ["-p", "no:django", "-o", "DJANGO_SETTINGS_MODULE=", "--durations=12"]
APART += ["-W", "ignore::pytest.PytestConfigWarning"]


def _browser() -> Step:
    marks = "not alone and not in_time and not long"
    return "browser", [*PYTEST, "-m", marks, "-n", "2", *APART, "tests/browser"]


def _heard(long: bool) -> Step:
    marks = "in_time or (long and not alone)" if long else "in_time and not long"
    return "what is heard", [*PYTEST, "-m", marks, *APART, "tests/browser"]


def _alone(long: bool) -> Step:
    marks = "alone" if long else "alone and not long"
    return "how soon it is heard", [*PYTEST, "-m", marks, *APART, "tests/browser"]


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
    _report(name, done.returncode, time.monotonic() - began, done.stdout)
    return done.returncode == 0


def _report(name: str, code: int, spent: float, said: str | None) -> None:
    report = f"  {name}: {'passed' if code == 0 else f'FAILED ({code})'} in {spent:.0f} s"
    say(report if said is None else f"— {name}\n{said}{report}")
