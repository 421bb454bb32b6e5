"""The commands that change a reel. Each addresses things by id and plans its own patch."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from bathyphon.core.clock import Clock
from bathyphon.core.edits.find import (
    Path,
    at,
    chain_path,
    clip_path,
    effect_path,
    track_path,
    treatment_path,
)
from bathyphon.core.edits.patch import Patch, pointer
from bathyphon.core.edits.spans import Moment, RampLength, resized
from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.reel import Document

Part = dict[str, Any]


class _Command(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)

    def patch(self, document: Document, clock: Clock) -> Patch:
        """The forward patch for a document."""
        raise NotImplementedError

    def title(self, document: Document) -> str:
        """What the history calls it, said of the document before the edit."""
        raise NotImplementedError


class RenameReel(_Command):
    """Give the reel another name."""

    kind: Literal["rename_reel"]
    name: str = Field(min_length=1, max_length=400)

    def patch(self, document: Document, clock: Clock) -> Patch:
        return _set(document, (), {"name": self.name})

    def title(self, document: Document) -> str:
        return f"rename the reel to “{self.name}”"


class AddMedium(_Command):
    """List a medium, so that clips can refer to it."""

    kind: Literal["add_medium"]
    medium: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        return _append(document, (), "media", self.medium)

    def title(self, document: Document) -> str:
        return f"bring in {self.medium.get('path', 'a file')}"


class SetPicture(_Command):
    """Replace the picture's clips."""

    kind: Literal["set_picture"]
    clips: list[Part]

    def patch(self, document: Document, clock: Clock) -> Patch:
        picture = {**document.get("picture", {}), "clips": self.clips}
        return _set(document, (), {"picture": picture})

    def title(self, document: Document) -> str:
        return "set the picture"


class AddCut(_Command):
    """Mark a cut at a frame."""

    kind: Literal["add_cut"]
    frame: int = Field(ge=1, le=2**40)

    def patch(self, document: Document, clock: Clock) -> Patch:
        cuts = document.get("picture", {}).get("cuts", [])
        if self.frame in cuts:
            raise Refused(f"there is a cut at frame {self.frame} already", "frame")
        return _cuts(document, sorted([*cuts, self.frame]))

    def title(self, document: Document) -> str:
        return "add a cut"


class RemoveCut(_Command):
    """Remove the cut at a frame."""

    kind: Literal["remove_cut"]
    frame: int

    def patch(self, document: Document, clock: Clock) -> Patch:
        cuts = document.get("picture", {}).get("cuts", [])
        if self.frame not in cuts:
            raise Refused(f"there is no cut at frame {self.frame}", "frame")
        return _cuts(document, [c for c in cuts if c != self.frame])

    def title(self, document: Document) -> str:
        return "remove a cut"


class AddTrack(_Command):
    """Add a track at the bottom."""

    kind: Literal["add_track"]
    track: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        return _append(document, (), "tracks", {"clips": [], "treatments": [], **self.track})

    def title(self, document: Document) -> str:
        return f"add track {self.track.get('name', '')}".strip()


class SetTrack(_Command):
    """Change a track's name, gain, pan, mute or solo."""

    kind: Literal["set_track"]
    id: str
    name: str | None = None
    gain_db: float | Part | None = None
    pan: float | Part | None = None
    mute: bool | None = None
    solo: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        return _set(document, track_path(document, self.id), _given(self))

    def title(self, document: Document) -> str:
        return f"set {_words(_given(self))} of {_name(document, track_path(document, self.id))}"


class RemoveTrack(_Command):
    """Remove a track and all it holds."""

    kind: Literal["remove_track"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*track_path(document, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove track {_name(document, track_path(document, self.id))}"


class AddClip(_Command):
    """Lay a stretch of a medium on a track."""

    kind: Literal["add_clip"]
    track: str
    clip: Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        return _append(document, track_path(document, self.track), "clips", self.clip)

    def title(self, document: Document) -> str:
        return f"add clip {self.clip.get('name', '')}".strip()


class SetClip(_Command):
    """Change a clip's place, gain, fades or whether it plays."""

    kind: Literal["set_clip"]
    id: str
    name: str | None = None
    start: int | None = None
    length: int | None = None
    source_start: int | None = None
    gain_db: float | Part | None = None
    fade_in: Part | None = None
    fade_out: Part | None = None
    enabled: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        return _set(document, clip_path(document, self.id), _given(self))

    def title(self, document: Document) -> str:
        return f"set {_words(_given(self))} of {_name(document, clip_path(document, self.id))}"


class RemoveClip(_Command):
    """Take a clip off its track."""

    kind: Literal["remove_clip"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*clip_path(document, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove clip {_name(document, clip_path(document, self.id))}"


class AddTreatment(_Command):
    """Treat a span of a track."""

    kind: Literal["add_treatment"]
    track: str
    id: str
    name: str = Field("", max_length=400)
    start: Moment
    end: Moment
    ramp_in: RampLength = RampLength()
    ramp_out: RampLength = RampLength()
    effects: list[Part] = Field(default_factory=list)

    def patch(self, document: Document, clock: Clock) -> Patch:
        start, end = self.start.of(clock), self.end.of(clock)
        bare = {"start": start, "length": end - start, "ramp_in": {}, "ramp_out": {}}
        span = resized(bare, start, end, self.ramp_in, self.ramp_out, clock)
        treatment = {
            "id": self.id,
            "name": self.name,
            **span,
            "strength": 100,
            "ring_out": "auto",
            "effects": self.effects,
        }
        return _append(document, track_path(document, self.track), "treatments", treatment)

    def title(self, document: Document) -> str:
        return f"treat {_name(document, track_path(document, self.track))}"


class SetTreatment(_Command):
    """Move, stretch or change a span's treatment."""

    kind: Literal["set_treatment"]
    id: str
    name: str | None = None
    start: Moment | None = None
    end: Moment | None = None
    ramp_in: RampLength | None = None
    ramp_out: RampLength | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = treatment_path(document, self.id)
        values: Part = {} if self.name is None else {"name": self.name}
        if self.start or self.end or self.ramp_in or self.ramp_out:
            values |= resized(
                at(document, path),
                self.start.of(clock) if self.start else None,
                self.end.of(clock) if self.end else None,
                self.ramp_in,
                self.ramp_out,
                clock,
            )
        return _set(document, path, values)

    def title(self, document: Document) -> str:
        name = _name(document, treatment_path(document, self.id))
        if self.start and not self.end:
            return f"move {name}"
        if self.start or self.end:
            return f"stretch {name}"
        if self.ramp_in or self.ramp_out:
            return f"set the ramp of {name}"
        return f"rename {name}"


class RemoveTreatment(_Command):
    """Remove a span's treatment."""

    kind: Literal["remove_treatment"]
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*treatment_path(document, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove {_name(document, treatment_path(document, self.id))}"


class SetChain(_Command):
    """Change strength, ring-out or bypass of any chain."""

    kind: Literal["set_chain"]
    owner: str
    strength: float | Part | None = None
    ring_out: Literal["auto", "none"] | int | None = None
    bypass: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        values = _given(self)
        return [*_make_chain(document, self.owner), *_set_in_chain(document, self.owner, values)]

    def title(self, document: Document) -> str:
        return f"set {_words(_given(self))} of {_chain_name(document, self.owner)}"


class AddEffect(_Command):
    """Put an effect into a chain."""

    kind: Literal["add_effect"]
    owner: str
    effect: Part
    index: int | None = Field(None, ge=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        make = _make_chain(document, self.owner)
        effects = [] if make else at(document, path).get("effects", [])
        here = len(effects) if self.index is None else min(self.index, len(effects))
        if not make and "effects" not in at(document, path):
            make = [{"op": "add", "path": pointer(*path, "effects"), "value": []}]
        return [
            *make,
            {"op": "add", "path": pointer(*path, "effects", here), "value": self.effect},
        ]

    def title(self, document: Document) -> str:
        return f"add {_label(self.effect)} to {_chain_name(document, self.owner)}"


class SetEffect(_Command):
    """Set parameters or bypass of an effect; a parameter given as null returns to its default."""

    kind: Literal["set_effect"]
    owner: str
    id: str
    params: Part = Field(default_factory=dict)
    bypass: bool | None = None

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = effect_path(document, self.owner, self.id)
        effect = at(document, path)
        patch: Patch = []
        if self.params and "params" not in effect:
            patch.append({"op": "add", "path": pointer(*path, "params"), "value": {}})
        for id, value in self.params.items():
            place = pointer(*path, "params", id)
            there = id in effect.get("params", {})
            if value is None:
                patch += [{"op": "remove", "path": place}] if there else []
            else:
                patch.append({"op": "replace" if there else "add", "path": place, "value": value})
        if self.bypass is not None:
            patch += _set(document, path, {"bypass": self.bypass})
        return patch

    def title(self, document: Document) -> str:
        effect = at(document, effect_path(document, self.owner, self.id))
        if self.bypass is not None:
            return f"switch {_label(effect)} {'off' if self.bypass else 'on'}"
        known = EFFECTS.get(effect["kind"])
        labels = [p.label.lower() for p in known.parameters if p.id in self.params] if known else []
        return f"set {', '.join(labels) or 'a value'} of {_label(effect)}"


class MoveEffect(_Command):
    """Move an effect to another place in its chain."""

    kind: Literal["move_effect"]
    owner: str
    id: str
    index: int = Field(ge=0)

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = effect_path(document, self.owner, self.id)
        chain = at(document, path[:-1])
        index = min(self.index, len(chain) - 1)
        return [
            {"op": "remove", "path": pointer(*path)},
            {"op": "add", "path": pointer(*path[:-1], index), "value": chain[path[-1]]},
        ]

    def title(self, document: Document) -> str:
        return f"move {_label(at(document, effect_path(document, self.owner, self.id)))}"


class RemoveEffect(_Command):
    """Take an effect out of its chain."""

    kind: Literal["remove_effect"]
    owner: str
    id: str

    def patch(self, document: Document, clock: Clock) -> Patch:
        return [{"op": "remove", "path": pointer(*effect_path(document, self.owner, self.id))}]

    def title(self, document: Document) -> str:
        return f"remove {_label(at(document, effect_path(document, self.owner, self.id)))}"


class SetMix(_Command):
    """Change the level of the mix."""

    kind: Literal["set_mix"]
    gain_db: float | Part

    def patch(self, document: Document, clock: Clock) -> Patch:
        if "mix" not in document:
            return [{"op": "add", "path": "/mix", "value": {"gain_db": self.gain_db}}]
        return _set(document, ("mix",), {"gain_db": self.gain_db})

    def title(self, document: Document) -> str:
        return "set the level of the mix"


Command = (
    RenameReel
    | AddMedium
    | SetPicture
    | AddCut
    | RemoveCut
    | AddTrack
    | SetTrack
    | RemoveTrack
    | AddClip
    | SetClip
    | RemoveClip
    | AddTreatment
    | SetTreatment
    | RemoveTreatment
    | SetChain
    | AddEffect
    | SetEffect
    | MoveEffect
    | RemoveEffect
    | SetMix
)
AnyCommand = Annotated[Command, Field(discriminator="kind")]
_ADAPTER: TypeAdapter[Command] = TypeAdapter(AnyCommand)


def parse_command(data: Any) -> Command:
    """Read a command from JSON; refuses what is no command, in one sentence."""
    try:
        return _ADAPTER.validate_python(data)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        place = ".".join(str(p) for p in first["loc"][1:] if p not in ("float", "int"))
        raise Refused(f"this edit cannot be read: {first['msg'].lower()}", place) from None


def _set(document: Document, path: Path, values: Part) -> Patch:
    target = at(document, path)
    return [
        {"op": "replace" if k in target else "add", "path": pointer(*path, k), "value": v}
        for k, v in values.items()
        if k not in target or target[k] != v
    ]


def _append(document: Document, path: Path, key: str, value: Any) -> Patch:
    target = at(document, path)
    make: Patch = []
    if key not in target:
        make = [{"op": "add", "path": pointer(*path, key), "value": []}]
    here = len(target.get(key, []))
    return [*make, {"op": "add", "path": pointer(*path, key, here), "value": value}]


def _cuts(document: Document, cuts: list[int]) -> Patch:
    if "picture" not in document:
        return [{"op": "add", "path": "/picture", "value": {"clips": [], "cuts": cuts}}]
    return _set(document, ("picture",), {"cuts": cuts})


def _make_chain(document: Document, owner: str) -> Patch:
    path = chain_path(document, owner)
    if owner == "mix" and "mix" not in document:
        return [{"op": "add", "path": "/mix", "value": {"treatment": {"effects": []}}}]
    if path[-1] == "treatment" and "treatment" not in at(document, path[:-1]):
        return [{"op": "add", "path": pointer(*path), "value": {"effects": []}}]
    return []


def _set_in_chain(document: Document, owner: str, values: Part) -> Patch:
    path = chain_path(document, owner)
    if _make_chain(document, owner):
        return [{"op": "add", "path": pointer(*path, k), "value": v} for k, v in values.items()]
    return _set(document, path, values)


def _given(command: _Command) -> Part:
    values = command.model_dump(exclude_none=True)
    return {k: v for k, v in values.items() if k not in ("kind", "id", "owner")}


def _words(values: Part) -> str:
    names = {"gain_db": "the level", "source_start": "the sound inside"}
    return " and ".join(names.get(k, k.replace("_", " ")) for k in values) or "nothing"


def _name(document: Document, path: Path) -> str:
    part = at(document, path)
    return str(part.get("name") or part.get("id"))


def _chain_name(document: Document, owner: str) -> str:
    if owner == "mix":
        return "the mix"
    path = chain_path(document, owner)
    return _name(document, path[:-1] if path[-1] == "treatment" else path)


def _label(effect: Part) -> str:
    known = EFFECTS.get(str(effect.get("kind")))
    return known.label if known else str(effect.get("kind"))
