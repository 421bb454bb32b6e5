"""A preset's file: one preset, or a list of them, as JSON."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from bathyphon.core.errors import Refused
from bathyphon.core.presets.bodies import BODIES, Kind, Title
from bathyphon.core.presets.places import check_shares
from bathyphon.core.reel.model import Part
from bathyphon.core.unread import cannot_read

FORMAT = "bathyphon-preset"
VERSION = 1
MOST = 5000
Tag = Annotated[str, Field(min_length=1, max_length=60)]


class Preset(Part):
    """Something that worked once.

    Parameters
    ----------
    kind : {"effect", "chain", "treatment", "bed", "poses", "recipe"}
    name, note : str
    tags : tuple of str
    body : dict
        An effect is ``{"kind", "params"}``; a chain ``{"effects", "strength", "ring_out"}``; a
        treatment that and its ramps, in frames, and how many frames it lasted; a bed the model,
        settings, seed and level of its sound; poses their values; a recipe its parts and what it
        asks (:mod:`.bodies`). Keyframes lie at shares of their owner's length.
    """

    format: Literal["bathyphon-preset"] = "bathyphon-preset"
    version: Literal[1] = 1
    kind: Kind
    name: Title
    note: Annotated[str, Field(max_length=4000)] = ""
    tags: Annotated[tuple[Tag, ...], Field(strict=False, max_length=40)] = ()
    body: dict[str, Any]


def read_presets(document: Any) -> list[Preset]:
    """The presets of a file.

    Raises
    ------
    Refused
        In a sentence, where it is none, comes from a newer version, or is not whole.
    """
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise Refused("this is no file of presets")
    version = document.get("version")
    if not isinstance(version, int) or version < 1:
        raise Refused("this file of presets does not say its version", "version")
    if version > VERSION:
        raise Refused(
            f"these presets come from a newer version ({version}); this one reads {VERSION}"
        )
    listed = document.get("presets")
    if listed is None:
        return [_preset(document, ())]
    if not isinstance(listed, list):
        raise Refused("“presets” must be a list", "presets")
    if len(listed) > MOST:
        raise Refused(f"a file holds no more than {MOST} presets", "presets")
    head = {"format": FORMAT, "version": VERSION}
    return [
        _preset({**head, **part} if isinstance(part, dict) else part, ("presets", i))
        for i, part in enumerate(listed)
    ]


def plain(preset: Preset) -> dict[str, Any]:
    """A preset as its file has it."""
    return preset.model_dump(mode="json")


def _preset(document: Any, where: tuple[str | int, ...]) -> Preset:
    try:
        preset = Preset.model_validate(document)
    except ValidationError as error:
        raise cannot_read(error, "this preset", where) from None
    _check(preset, where)
    return preset


def _check(preset: Preset, where: tuple[str | int, ...]) -> None:
    """What a preset's own kind asks of its body, and where keyframes lie."""
    try:
        BODIES[preset.kind].model_validate(preset.body)
    except ValidationError as error:
        raise cannot_read(error, f"“{preset.name}”", (*where, "body")) from None
    check_shares(preset.body, ".".join(map(str, (*where, "body"))))
