"""Taking a preset from a reel."""

from __future__ import annotations

from typing import Any

from bathyphon.core.edits.find import at, chain_path, effect_path, places_of
from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.presets.bodies import Kind
from bathyphon.core.presets.model import Preset
from bathyphon.core.presets.places import as_shares
from bathyphon.core.presets.using import length_of
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.sounds.made import Made


def preset_of(
    document: Document,
    reel: Reel,
    kind: Kind,
    owner: str,
    name: str,
    effect: str | None = None,
    note: str = "",
    tags: tuple[str, ...] = (),
) -> Preset:
    """A preset of an effect, of a chain, or of a treatment with its ramps.

    Parameters
    ----------
    owner : str
        ``treatment:ID``, ``clip:ID``, ``track:ID`` or ``mix``.
    effect : str, optional
        Which effect of it, for a preset of one.

    Raises
    ------
    Refused
        If there is no such part, or nothing in it.
    """
    body: dict[str, Any]
    if kind == "effect":
        if effect is None:
            raise Refused("say which effect", "effect")
        body = effect_body(
            at(document, effect_path(document, owner, effect)), length_of(document, reel, owner)
        )
    else:
        body = chain_body(document, reel, owner)
    if kind == "treatment":
        body |= ramps_body(document, reel, owner)
    return Preset(kind=kind, name=name, note=note, tags=tags, body=body)


def preset_of_bed(
    made: Made, name: str, gain_db: float, note: str = "", tags: tuple[str, ...] = ()
) -> Preset:
    """A preset of a computed sound as it was laid."""
    body = {
        "model": made.model,
        "settings": dict(made.settings),
        "seed": made.seed,
        "gain_db": gain_db,
    }
    return Preset(kind="bed", name=name, note=note, tags=tags, body=body)


def chain_body(document: Document, reel: Reel, owner: str) -> dict[str, Any]:
    """A chain's effects, strength and ring-out."""
    effects = places_of(document).effects(owner)
    if not effects:
        raise Refused("there are no effects here to keep", "owner")
    chain = at(document, chain_path(document, owner))
    length = length_of(document, reel, owner)
    body: dict[str, Any] = {"effects": [effect_body(effect, length) for effect in effects]}
    if chain.get("strength", 100) != 100:
        body["strength"] = as_shares(chain["strength"], length)
    ring_out = chain.get("ring_out", "auto")
    if ring_out != "auto":
        body["ring_out"] = (
            ring_out if ring_out == "none" else {"seconds": ring_out / reel.sample_rate}
        )
    return body


def effect_body(effect: dict[str, Any], length: int) -> dict[str, Any]:
    """An effect without its id, and without the track or medium of its own reel that it names."""
    known = EFFECTS.get(effect["kind"])
    named = known.reference.id if known and known.reference else None
    params = {k: v for k, v in effect.get("params", {}).items() if k != named}
    kept = {k: v for k, v in effect.items() if k not in ("id", "params")}
    return {**kept, "params": as_shares(params, length)}


def ramps_body(document: Document, reel: Reel, owner: str) -> dict[str, Any]:
    """The ramps of a stretch's treatment, and how long it lasts, in frames."""
    if not owner.startswith("treatment:"):
        raise Refused("only the treatment of a stretch has ramps", "owner")
    span = at(document, chain_path(document, owner))
    body: dict[str, Any] = {"frames": round(span["length"] * float(reel.rate) / reel.sample_rate)}
    for key in ("ramp_in", "ramp_out"):
        body[key] = ramp_body(span.get(key, {}), reel)
    return body


def ramp_body(ramp: dict[str, Any], reel: Reel) -> dict[str, Any]:
    """A ramp or a fade with its length in frames."""
    shape = {k: v for k, v in ramp.items() if k != "length"}
    frames = ramp.get("length", 0) * float(reel.rate) / reel.sample_rate
    return {**shape, "frames": round(frames, 3)}
