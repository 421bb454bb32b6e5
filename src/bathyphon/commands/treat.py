"""``bathyphon treat``."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.commands import Result
from bathyphon.commands.whole import whole_sound
from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.effect import Effect
from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.render import render
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import FORMAT, VERSION
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.typed.values import Known, read_value
from bathyphon.formats.conform import ConformedFile, conform, stereo_blocks
from bathyphon.formats.wav import Bits, SoundWriter, container_of

TREATED = "in"


def run(options: Namespace) -> Result:
    """``treat IN OUT --effect KIND PARAM=VALUE …``."""
    source, out = Path(options.source), Path(options.out)
    if container_of(out) == "FLAC" and options.bits is None:
        options.bits = "24"
    bits: Bits = options.bits or "32f"
    x, rate = whole_sound(source, stereo_blocks)
    reel = read_reel(_one_clip_reel(x.shape[1], rate, options))
    media = _Memory(x, rate)
    graph = build_graph(reel, media)
    samples = graph.length
    with SoundWriter(out, rate, bits, samples) as writer:
        for part in render(graph, media):
            writer.write(part.mix)
    tail = samples - x.shape[1]
    return {
        "out": str(out),
        "samples": samples,
        "sample_rate": rate,
        "tail_samples": tail,
        "lines": [
            f"{out}: {samples} samples at {rate} Hz, of which {tail} ({tail / rate:.3f} s) ring out"
        ],
    }


class _Memory:
    """The treated file in memory, and impulse responses by their paths."""

    def __init__(self, sound: NDArray[np.float32], rate: int) -> None:
        self._sounds = {TREATED: sound}
        self._rate = rate

    def _sound(self, media: str) -> NDArray[np.float32]:
        if media not in self._sounds:
            path = Path(media)
            if not path.is_file():
                raise Refused(f"there is no file “{media}”")
            with TemporaryDirectory() as folder:
                target = Path(folder) / "response.f32"
                conform(path, target, self._rate)
                file = ConformedFile(target)
                self._sounds[media] = file.response(file.samples)
        return self._sounds[media]

    def digest(self, media: str) -> str:
        return media

    def read(self, media: str, start: int, stop: int) -> NDArray[np.float32]:
        return self._sound(media)[:, start:stop]

    def length(self, media: str) -> int:
        return int(self._sound(media).shape[1])

    def response(self, media: str, most: int) -> NDArray[np.float32]:
        return self._sound(media)[:, :most]


def _one_clip_reel(samples: int, rate: int, options: Namespace) -> dict[str, Any]:
    chain = {
        "effects": [_effect(i, words) for i, words in enumerate(options.effect)],
        "ring_out": _tail(options.tail, rate),
    }
    clip = {"id": "c1", "media": TREATED, "start": 0, "length": samples, "treatment": chain}
    return {
        "format": FORMAT,
        "version": VERSION,
        "frame_rate": "25/1",
        "sample_rate": rate,
        "media": [{"id": TREATED, "path": "in"}],
        "tracks": [{"id": "t1", "clips": [clip]}],
    }


def _effect(index: int, words: list[str]) -> dict[str, Any]:
    kind, *settings = words
    if kind not in EFFECTS:
        raise Refused(f"there is no effect “{kind}”; there are {', '.join(EFFECTS)}")
    effect = EFFECTS[kind]
    params: dict[str, Any] = {}
    for word in settings:
        name, sign, text = word.partition("=")
        if sign and effect.reference and name == effect.reference.id:
            if effect.reference.to == "track":
                raise Refused(f"“{word}”: a single file has no other track to listen to")
            params[name] = text
            continue
        parameter = effect.parameter(name)
        if not sign or parameter is None:
            raise Refused(f"“{word}” is not PARAM=VALUE of {kind}; it has {_known(effect)}")
        value = _value(parameter, word, text, effect.lengths(params))
        if effect.group and "." in name:
            # bands.0.freq_hz=730
            _, number, id = name.split(".")
            entries = params.setdefault(effect.group.id, [])
            entries += [{} for _ in range(int(number) + 1 - len(entries))]
            entries[int(number)][id] = value
        else:
            params[name] = value
    return {"id": f"e{index + 1}", "kind": kind, "params": params}


def _known(effect: Effect) -> str:
    names = [p.id for p in effect.parameters]
    if effect.reference:
        names.append(effect.reference.id)
    if effect.group:
        names += [f"{effect.group.id}.0.{p.id}" for p in effect.group.parameters]
    return ", ".join(names)


def _value(parameter: Parameter, word: str, text: str, lengths: Known) -> str | float:
    if parameter.choices:
        index = parameter.chosen(text)
        if index is None:
            raise Refused(f"“{word}”: expected one of {', '.join(parameter.choices)}")
        return parameter.choices[index]
    try:
        return read_value(parameter, text, lengths)
    except Refused as refused:
        raise Refused(f"“{word}”: {refused.message}") from None


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
