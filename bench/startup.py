"""What a start costs: processor time of whole commands, as ratios to importing the compiler.

``.venv/bin/python bench/startup.py`` prints the median of several runs in turn. Ratios hold on any
machine: with bytecode they are those of an installation, without it those of a first start. The
time from command to link of the demo is printed as it is, in seconds of this machine.
"""

from __future__ import annotations

import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
import soundfile

ROOT = Path(__file__).parents[1]
RUNS = 5


def spent(words: list[str], env: dict[str, str]) -> float:
    """Seconds of processor time, of all its threads."""
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run(words, env=env, cwd=ROOT, check=True, stdout=subprocess.DEVNULL)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


def ratios(env: dict[str, str], folder: Path) -> dict[str, float]:
    """Medians of commands, in those of ``import numba``."""
    sound = folder / "in.wav"
    soundfile.write(sound, np.random.default_rng(1).standard_normal((48000, 2)) * 0.1, 48000)
    cli = [sys.executable, "-m", "bathyphon.cli"]
    commands = {
        "import numba": [sys.executable, "-c", "import numba"],
        "--help": [*cli, "--help"],
        "effects --json": [*cli, "effects", "--json"],
        "treat 1 s with a reverb": [
            *cli, "treat", str(sound), str(folder / "out.wav"), "--effect", "reverb",
        ],
    }  # fmt: skip
    times: dict[str, list[float]] = {name: [] for name in commands}
    for turn in range(RUNS + 1):
        for name, words in commands.items():
            seconds = spent(words, env)
            if turn:
                times[name].append(seconds)
    medians = {name: statistics.median(all) for name, all in times.items()}
    one = medians["import numba"]
    print(f"import numba: {one:.2f} s of processor time")
    return {name: value / one for name, value in medians.items()}


def demo_seconds() -> float:
    """From the command to the link, everything installed."""
    began = time.monotonic()
    process = subprocess.Popen(
        ["./bathyphon", "demo"],
        cwd=ROOT,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
    )
    try:
        for line in process.stdout or ():
            if "answers on port" in line:
                return time.monotonic() - began
    finally:
        process.terminate()
        process.wait(timeout=30)
    raise SystemExit("the demo does not start")


def main() -> None:
    """Print the table."""
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "PYTHONDONTWRITEBYTECODE": ""}
    with tempfile.TemporaryDirectory() as folder:
        print("with bytecode")
        for name, ratio in ratios(env, Path(folder)).items():
            print(f"  {name}: {ratio:.2f}")
        print("without")
        bare = {**env, "PYTHONDONTWRITEBYTECODE": "1", "PYTHONPYCACHEPREFIX": f"{folder}/none"}
        for name, ratio in ratios(bare, Path(folder)).items():
            print(f"  {name}: {ratio:.2f}")
    demo_seconds()
    print(f"demo, command to link: {statistics.median(demo_seconds() for _ in range(3)):.1f} s")


if __name__ == "__main__":
    main()
