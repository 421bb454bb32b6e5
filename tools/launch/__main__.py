"""Decides what a command needs, sets that up, and hands over."""

from __future__ import annotations

import os
import sys
from concurrent.futures import Future, ThreadPoolExecutor
from functools import partial

import check
import debian
import doctor
import environment
import serve
from steps import PYTHON, Trouble, say

USAGE = """bathyphon demo | start | test | worker | doctor
bathyphon render REEL.json OUT.wav [--from TC] [--to TC] [--stems DIR] [--untreated] …
bathyphon treat IN OUT --effect KIND [PARAM=VALUE …] [--tail auto|none|SECONDS]
bathyphon stretch IN OUT --speed PERCENT | --to SECONDS [--pitch hold|follow] …
bathyphon sound   [SOUND OUT [PARAM=VALUE …] [--seconds N] [--seed N]]
bathyphon pack    REEL.json OUT
bathyphon unpack  ARCHIVE FOLDER
bathyphon measure IN [--rt]
bathyphon effects [--json]
"""
FILES = ("render", "treat", "stretch", "measure", "sound", "pack", "unpack", "effects", "--version")


def main(arguments: list[str]) -> int:
    """Carry out one command."""
    command, options = (arguments[0], arguments[1:]) if arguments else ("", [])
    if command in ("", "-h", "--help", "help"):
        print(USAGE, end="")
        return 0 if command else 2
    if command == "doctor":
        return doctor.doctor()
    if command in FILES:
        environment.ensure_python()
        env = {**os.environ, **environment.python_env()}
        os.execve(PYTHON, [str(PYTHON), "-m", "bathyphon.cli", *arguments], env)
    if command not in ("demo", "start", "test", "worker"):
        print(f"bathyphon: there is no command “{command}”; see ./bathyphon help", file=sys.stderr)
        return 2
    elsewhere = command in ("start", "worker") and "DATABASE_URL" in os.environ
    _set_up(command, elsewhere)
    if command == "test":
        return check.test(options)
    if command == "worker":
        return serve.worker()
    return serve.demo(options) if command == "demo" else serve.start(options)


def _set_up(command: str, elsewhere: bool) -> None:
    """Fetch and make what is missing, beside each other: one waits for the network, another for
    the processor."""
    testing = command == "test"
    from_debian = partial(debian.ensure, browser=testing, database=not elsewhere)
    if not debian.may_install():
        # It can only say what is missing: before anyone waits for the rest.
        from_debian()
    with ThreadPoolExecutor(4) as pool:
        python = pool.submit(environment.ensure_python, tests=testing)
        steps = [python, pool.submit(from_debian)]
        if command != "worker":
            steps.append(pool.submit(_web, python))
        python.result()
        environment.warm_up()
        for step in steps:
            step.result()


def _web(python: Future[None]) -> None:
    environment.ensure_web()
    # It is compressed with Python.
    python.result()
    environment.pack_web()


if __name__ == "__main__":
    try:
        sys.exit(main(sys.argv[1:]))
    except Trouble as trouble:
        say(f"bathyphon: {trouble}")
        sys.exit(1)
    except KeyboardInterrupt:
        sys.exit(130)
