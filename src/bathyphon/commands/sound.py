"""``bathyphon sound``."""

from __future__ import annotations

from argparse import Namespace
from difflib import get_close_matches
from pathlib import Path
from typing import Any

from bathyphon.commands import Result
from bathyphon.core.errors import Refused
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.sounds.made import make, sound_of
from bathyphon.core.sounds.shelf import SOUNDS, find_sounds
from bathyphon.formats.computed import ENDING, written
from bathyphon.formats.wav import Bits, SoundWriter, container_of


def run(options: Namespace) -> Result:
    """``sound [SOUND OUT [PARAM=VALUE …]]``: without any, the list."""
    if options.name is None:
        return _listed()
    if options.out is None:
        raise Refused("name the file that the sound is written to")
    sound = SOUNDS.get(options.name) or _called(options.name)
    if sound is None:
        near = get_close_matches(options.name, SOUNDS, 1, 0.3)
        raise Refused(
            f"there is no sound “{options.name}”" + (f"; did you mean “{near[0]}”?" if near else "")
        )
    model = sound.model
    settings = {**sound.shipped.settings, **_given(model.id, options.settings)}
    made = make(model.id, settings, options.seed, options.seconds, sound.shipped.name)
    out = Path(options.out)
    if out.suffix == ENDING:
        out.write_bytes(written(made))
    else:
        bits: Bits = options.bits or ("24" if container_of(out) == "FLAC" else "32f")
        with SoundWriter(out, RATE, bits, made.samples, channels=2) as writer:
            for block in sound_of(made):
                writer.write(block)
    said = ", ".join(f"{key} {value:g}" for key, value in model.settings(settings).items())
    return {
        "out": str(out),
        **made.model_dump(),
        "lines": [f"{out}: {sound.shipped.name}, {made.samples / RATE:g} s ({said})"],
    }


def _called(name: str) -> Any:
    """A sound by its name on screen."""
    wanted = name.lower()
    return next((s for s in SOUNDS.values() if s.shipped.name.lower() == wanted), None)


def _given(model: str, settings: list[str]) -> dict[str, Any]:
    from bathyphon.core.sounds import MODELS

    known = {row.id: row for row in MODELS[model].table.parameters}
    given: dict[str, Any] = {}
    for text in settings:
        id, equals, value = text.partition("=")
        if not equals or id not in known:
            wanted = ", ".join(known)
            raise Refused(f"“{text}”: give PARAM=VALUE with one of {wanted}")
        try:
            given[id] = value if known[id].choices else float(value)
        except ValueError:
            raise Refused(f"{id}: “{value}” is not a number") from None
    return given


def _listed() -> Result:
    lines = []
    model = ""
    for _, sound in find_sounds(""):
        table = sound.model.table
        if table.id != model:
            model = table.id
            rows = ", ".join(
                f"{r.id} {r.low:g} to {r.high:g} {r.unit}".strip() for r in table.parameters
            )
            lines.append(f"{table.label} ({table.kind}): {table.help}")
            lines.append(f"  {rows}")
        lines.append(f"    {sound.id}: {sound.shipped.help}")
    return {"sounds": list(SOUNDS), "lines": lines}
