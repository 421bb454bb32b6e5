"""Running commands, and doing nothing twice. Standard library only: it runs before all else."""

from __future__ import annotations

import hashlib
import os
import subprocess
import sys
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
LOCAL = ROOT / ".local"
STAMPS = LOCAL / "stamps"
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"


class Trouble(Exception):
    """Something that the user must know, in one sentence."""


def say(text: str) -> None:
    """One line about what is being done."""
    print(text, file=sys.stderr, flush=True)


def last_said(text: str) -> str:
    """The last line of an error that says something: not the quoted query or the mark below it."""
    lines = [line for line in text.splitlines() if line.strip()]
    speaking = [line for line in lines if not line[0].isspace() and not line.startswith("LINE ")]
    return (speaking or lines or [""])[-1].strip()


def run(
    command: Sequence[str | Path],
    why: str,
    cwd: Path = ROOT,
    env: Mapping[str, str] | None = None,
) -> None:
    """Run a command quietly; on failure show what it said.

    Raises
    ------
    Trouble
        If it fails.
    """
    LOCAL.mkdir(exist_ok=True)
    log = LOCAL / f"{why.replace(' ', '-')}.log"
    with log.open("wb") as out:
        done = subprocess.run(
            [str(c) for c in command],
            cwd=cwd,
            env={**os.environ, **(env or {})},
            stdout=out,
            stderr=subprocess.STDOUT,
            stdin=subprocess.DEVNULL,
            check=False,
        )
    if done.returncode:
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-25:])
        raise Trouble(f"{tail}\n{why} failed (exit status {done.returncode}); all it said: {log}")


def fingerprint(paths: Iterable[Path]) -> str:
    """Hash of names and contents of files; folders count with all they hold but bytecode."""
    digest = hashlib.sha256()
    for path in paths:
        files = [path]
        if path.is_dir():
            files = sorted(
                p for p in path.rglob("*") if p.is_file() and "__pycache__" not in p.parts
            )
        for file in files:
            digest.update(str(file.relative_to(ROOT)).encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()


def is_done(name: str, mark: str) -> bool:
    """Whether a step was done for exactly this state of its inputs."""
    stamp = STAMPS / name
    return stamp.exists() and stamp.read_text() == mark


def done(name: str, mark: str) -> None:
    """Note that a step is done."""
    STAMPS.mkdir(parents=True, exist_ok=True)
    (STAMPS / name).write_text(mark)
