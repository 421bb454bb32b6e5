"""Every effect's speed as times real time, beside pedalboard's and SciPy's in the same run.

Stereo at 48 kHz on one core, in blocks of 16,384 samples. What a figure is worth depends on the
machine and on what else it does; the ratios are what counts. Run as
``PYTHONPATH=src .venv/bin/python bench/effects.py``.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

import numpy as np
import pedalboard
from scipy.signal import oaconvolve

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.space.spaces import response
from bathyphon.core.engine.plan import effect_settings
from bathyphon.core.reel.model import EffectPart
from bathyphon.memory import keep_memory

RATE, SECONDS, BLOCK, RUNS = 48000, 20, 16384, 5
CHAIN = (
    ("eq", {"bands": [{"type": "peak", "freq_hz": f, "gain_db": 3} for f in (90, 400, 2000, 8e3)]}),
    ("reverb", {}),
    ("echo", {}),
    ("muffle", {}),
)
ASKED: dict[str, dict[str, Any]] = {
    "eq": CHAIN[0][1],
    "pitch": {"semitones": 4.0},
    "harmony": {"voices": [{"semitones": 4.0}, {"semitones": 7.0}]},
}
"""What an effect is measured with that does nothing by itself."""
MOVING = {
    "muffle": {"high_cut_hz": (300.0, 6000.0)},
    "echo": {"time_ms": (200.0, 400.0)},
}
THEIRS: dict[str, Any] = {
    "reverb": pedalboard.Reverb(),
    "pitch": pedalboard.PitchShift(4.0),
    "echo": pedalboard.Delay(0.35, 0.4, 0.5),
    "muffle": pedalboard.LowpassFilter(620),
    "tone": pedalboard.LowShelfFilter(250, 3),
    "chorus": pedalboard.Chorus(),
    "phaser": pedalboard.Phaser(),
    "drive": pedalboard.Distortion(18),
    "crush": pedalboard.Bitcrush(8),
    "compress": pedalboard.Compressor(-20, 3),
    "limit": pedalboard.Limiter(-1),
    "gate": pedalboard.NoiseGate(-45),
    "gain": pedalboard.Gain(-3),
}


def best(work: Callable[[], object]) -> float:
    """Shortest of several runs after a warm-up: what others do on the machine only adds to it."""
    work()
    spent = []
    for _ in range(RUNS):
        began = time.perf_counter()
        work()
        spent.append(time.perf_counter() - began)
    return min(spent)


def running(chain: Any, x: np.ndarray) -> Callable[[], None]:
    """A pass of effects over a sound, block by block."""
    made = [
        (EFFECTS[kind], effect_settings(EffectPart(id="e", kind=kind, params=params), RATE))
        for kind, params in chain
    ]

    def work() -> None:
        processors = [(e.id, e.make(s)) for e, s in made]
        for at in range(0, x.shape[1], BLOCK):
            y = x[:, at : at + BLOCK].copy()
            depth = np.ones(y.shape[1])
            for kind, processor in processors:
                if kind == "duck":
                    processor.hear(y)
                y = processor.process(y, at, depth)

    return work


def moving(kind: str) -> dict[str, Any]:
    """Parameters with keyframes over the whole sound."""
    frames = {
        id: [{"at": 0, "value": a}, {"at": SECONDS * RATE, "value": b}]
        for id, (a, b) in MOVING[kind].items()
    }
    return {id: {"keyframes": f} for id, f in frames.items()}


def convolved(x: np.ndarray) -> None:
    """SciPy's convolution of both sides with the four paths of the default place."""
    h = response("cavern", RATE)
    for a in range(2):
        for b in range(2):
            oaconvolve(x[a], h[a, b])


def main() -> None:
    """Print one table."""
    keep_memory()
    x = np.random.default_rng(1).standard_normal((2, SECONDS * RATE)) * 0.1
    silence = np.zeros_like(x)
    single = x.astype(np.float32)
    print(
        f"{'effect':18}{'× real time':>12}{'theirs':>9}{'ours ÷ theirs':>15}{'silence ÷ sound':>17}"
    )
    for kind in EFFECTS:
        params = ASKED.get(kind, {})
        spent = best(running([(kind, params)], x))
        quiet = best(running([(kind, params)], silence))
        theirs = THEIRS.get(kind)
        other = ""
        if theirs is not None:
            reference = best(lambda t=theirs: t(single, RATE))
            other = f"{SECONDS / reference:9.0f}{reference / spent:15.2f}"
        elif kind == "space":
            reference = best(lambda: convolved(x))
            other = f"{SECONDS / reference:9.0f}{reference / spent:15.2f}"
        print(f"{kind:18}{SECONDS / spent:12.0f}{other:24}{quiet / spent:17.2f}")
    for kind in MOVING:
        spent = best(running([(kind, moving(kind))], x))
        print(f"{kind + ', keyframed':18}{SECONDS / spent:12.0f}")
    board = pedalboard.Pedalboard(
        [*[pedalboard.PeakFilter(f, 3) for f in (90, 400, 2000, 8000)], pedalboard.Reverb(),
         pedalboard.Delay(0.35, 0.4, 0.5), pedalboard.LowpassFilter(620)]
    )  # fmt: skip
    spent, reference = best(running(CHAIN, x)), best(lambda: board(single, RATE))
    ratio = f"{SECONDS / reference:9.0f}{reference / spent:15.2f}"
    print(f"{'full chain':18}{SECONDS / spent:12.0f}{ratio}")


if __name__ == "__main__":
    main()
