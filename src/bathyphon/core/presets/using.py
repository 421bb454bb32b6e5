"""Using a preset on a place of a reel: the edits that it stands for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from bathyphon.core.edits.find import at, chain_path, clip_path
from bathyphon.core.edits.spans import fitting
from bathyphon.core.errors import Refused
from bathyphon.core.presets.model import Preset
from bathyphon.core.presets.places import as_samples
from bathyphon.core.presets.poses import poses_on
from bathyphon.core.presets.usable import usable
from bathyphon.core.reel.model import Document, Reel

Command = dict[str, Any]


@dataclass(frozen=True)
class Target:
    """What a preset is used on.

    Parameters
    ----------
    owner : str or None
        A chain that is there, as commands name it.
    tracks : tuple of str
        Else: tracks on which a stretch is treated.
    start, end : int
        The stretch, in samples.
    replace : bool
        Whether the chain's effects give way.
    """

    owner: str | None = None
    tracks: tuple[str, ...] = ()
    start: int = 0
    end: int = 0
    replace: bool = False


@dataclass(frozen=True)
class Used:
    """The edits, and what was left out, in sentences."""

    commands: list[Command]
    notes: list[str]


def used_on(
    preset: Preset, document: Document, reel: Reel, target: Target, new_id: Callable[[str], str]
) -> Used:
    """The edits that put a preset somewhere.

    Keyframes fall where they are in proportion; ramps keep their frames, as far as they fit.
    """
    if preset.kind == "bed":
        raise Refused("a bed is laid, not put on a treatment")
    if preset.kind == "recipe":
        raise Refused("a recipe is carried out, not put on a treatment")
    preset, notes = usable(preset)
    if preset.kind == "poses":
        if target.owner is None:
            raise Refused("select the treatment, clip or track that the poses are for")
        return Used(*poses_on(preset.body["poses"], document, target.owner, new_id))
    if target.owner is not None:
        return Used(_on_chain(preset, document, reel, target, new_id), notes)
    if not target.tracks or target.end <= target.start:
        raise Refused("select what it is to be used on")
    commands = []
    for track in target.tracks:
        commands += _on_stretch(preset, reel, target, track, new_id)
    return Used(commands, notes)


def _effects(preset: Preset, length: int, new_id: Callable[[str], str]) -> list[Command]:
    given = [preset.body] if preset.kind == "effect" else preset.body["effects"]
    return effects_of(given, length, new_id)


def effects_of(given: list[Command], length: int, new_id: Callable[[str], str]) -> list[Command]:
    """Effects of a preset as they are put on something of a length."""
    return [
        {**effect, "id": new_id("e"), "params": as_samples(effect.get("params", {}), length)}
        for effect in given
    ]


def _on_chain(
    preset: Preset, document: Document, reel: Reel, target: Target, new_id: Callable[[str], str]
) -> list[Command]:
    owner = str(target.owner)
    length = length_of(document, reel, owner)
    effects = _effects(preset, length, new_id)
    commands: list[Command] = [
        {"kind": "add_effects", "owner": owner, "effects": effects, "replace": target.replace}
    ]
    return commands + _rest(preset, reel, owner, length)


def _on_stretch(
    preset: Preset, reel: Reel, target: Target, track: str, new_id: Callable[[str], str]
) -> list[Command]:
    id = new_id("f")
    length = target.end - target.start
    ramps = fitting(_samples(preset, reel, "ramp_in"), _samples(preset, reel, "ramp_out"), length)
    shapes = [
        {k: v for k, v in preset.body.get(key, {}).items() if k in ("shape", "bend")}
        for key in ("ramp_in", "ramp_out")
    ]
    command = {
        "kind": "add_treatment", "track": track, "id": id, "name": preset.name,
        "start": {"sample": target.start}, "end": {"sample": target.end},
        "ramp_in": {"length": ramps[0], **shapes[0]}, "ramp_out": {"length": ramps[1], **shapes[1]},
        "effects": _effects(preset, length, new_id),
    }  # fmt: skip
    return [command, *_rest(preset, reel, f"treatment:{id}", length)]


def _samples(preset: Preset, reel: Reel, key: str) -> int:
    return samples_of(preset.body.get(key, {}), reel)


def samples_of(ramp: Command, reel: Reel) -> int:
    """Samples of a ramp or a fade that is kept in frames."""
    return int(round(ramp.get("frames", 0) * reel.sample_rate / float(reel.rate)))


def _rest(preset: Preset, reel: Reel, owner: str, length: int) -> list[Command]:
    """Strength and ring-out, where the preset has its own."""
    if preset.kind == "effect":
        return []
    values = chain_values(preset.body, reel, length)
    return [{"kind": "set_chain", "owner": owner, **values}] if values else []


def chain_values(body: Command, reel: Reel, length: int) -> Command:
    """Strength and ring-out of a chain, where its preset has its own."""
    values: Command = {}
    if "strength" in body:
        values["strength"] = as_samples(body["strength"], length)
    ring_out = body.get("ring_out")
    if isinstance(ring_out, dict):
        values["ring_out"] = round(ring_out["seconds"] * reel.sample_rate)
    elif ring_out is not None:
        values["ring_out"] = ring_out
    return values


def length_of(document: Document, reel: Reel, owner: str) -> int:
    """Samples that a chain's owner lasts; of a track or the mix the whole reel."""
    kind, _, id = owner.partition(":")
    if kind == "treatment":
        return int(at(document, chain_path(document, owner))["length"])
    if kind == "clip":
        return int(at(document, clip_path(document, id))["length"])
    return int(max(1, max((c.end for t in reel.tracks for c in t.clips), default=1)))
