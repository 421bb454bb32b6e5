"""``bathyphon treat``."""

from __future__ import annotations

import math
from argparse import Namespace
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.commands import Result
from bathyphon.core.effects import EFFECTS
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.errors import Refused
from bathyphon.core.reel import FORMAT, VERSION, read_reel
from bathyphon.formats.conform import stereo_blocks
from bathyphon.formats.decode import probe
from bathyphon.formats.wav import Bits, SoundWriter, container_of


def run(options: Namespace) -> Result:
    """``treat IN OUT --effect KIND PARAM=VALUE …``."""
    source, out = Path(options.source), Path(options.out)
    if container_of(out) == "FLAC" and options.bits is None:
        options.bits = "24"
    bits: Bits = options.bits or "32f"
    sound = probe(source).sound
    if sound is None:
        raise Refused(f"“{source.name}” holds no sound")
    blocks = list(stereo_blocks(source))
    x = np.concatenate(blocks, axis=1) + np.float32(0)
    x[~np.isfinite(x)] = 0.0
    if x.shape[1] == 0:
        raise Refused(f"“{source.name}” holds no samples")
    reel = read_reel(_one_clip_reel(x.shape[1], sound.rate, options))
    media = _Memory(x)
    graph = build_graph(reel, media)
    samples = graph.length
    with SoundWriter(out, sound.rate, bits, samples) as writer:
        for part in render(graph, media):
            writer.write(part.mix)
    tail = samples - x.shape[1]
    return {
        "out": str(out),
        "samples": samples,
        "sample_rate": sound.rate,
        "tail_samples": tail,
        "lines": [
            f"{out}: {samples} samples at {sound.rate} Hz, "
            f"of which {tail} ({tail / sound.rate:.3f} s) ring out"
        ],
    }


class _Memory:
    """One medium in memory."""

    def __init__(self, sound: NDArray[np.float32]) -> None:
        self._sound = sound

    def digest(self, media: str) -> str:
        return media

    def read(self, media: str, start: int, stop: int) -> NDArray[np.float32]:
        return self._sound[:, start:stop]


def _one_clip_reel(samples: int, rate: int, options: Namespace) -> dict[str, Any]:
    chain = {
        "effects": [_effect(i, words) for i, words in enumerate(options.effect)],
        "ring_out": _tail(options.tail, rate),
    }
    clip = {"id": "c1", "media": "m1", "start": 0, "length": samples, "treatment": chain}
    return {
        "format": FORMAT,
        "version": VERSION,
        "frame_rate": "25/1",
        "sample_rate": rate,
        "media": [{"id": "m1", "path": "in"}],
        "tracks": [{"id": "t1", "clips": [clip]}],
    }


def _effect(index: int, words: list[str]) -> dict[str, Any]:
    kind, *settings = words
    if kind not in EFFECTS:
        raise Refused(f"there is no effect “{kind}”; there are {', '.join(EFFECTS)}")
    params: dict[str, Any] = {}
    for word in settings:
        name, sign, text = word.partition("=")
        parameter = EFFECTS[kind].parameter(name)
        if not sign or parameter is None:
            known = ", ".join(p.id for p in EFFECTS[kind].parameters)
            raise Refused(f"“{word}” is not PARAM=VALUE of {kind}; it has {known}")
        try:
            value = float(text)
        except ValueError:
            raise Refused(f"“{word}”: {text or 'nothing'} is not a number") from None
        if not math.isfinite(value) or not parameter.low <= value <= parameter.high:
            raise Refused(
                f"“{word}” is outside {parameter.low:g} to {parameter.high:g} {parameter.unit}"
            )
        params[name] = value
    return {"id": f"e{index + 1}", "kind": kind, "params": params}


def _tail(text: str, rate: int) -> str | int:
    if text in ("auto", "none"):
        return text
    try:
        seconds = float(text)
    except ValueError:
        seconds = -1.0
    if not 0 <= seconds <= 3600:
        raise Refused(f"--tail {text}: give auto, none or seconds from 0 to 3600")
    return round(seconds * rate)
