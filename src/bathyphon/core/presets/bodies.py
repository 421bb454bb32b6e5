"""What the body of each kind of preset holds."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from bathyphon.core.reel.model import Part

Kind = Literal["effect", "chain", "treatment", "bed", "poses", "recipe"]
MOST_EFFECTS = 64
MOST_POSES = 1000
MOST_VALUES = 256
MOST_PARTS = 200
MOST_QUESTIONS = 12
Title = Annotated[str, Field(min_length=1, max_length=400)]
Named = Annotated[str, Field(min_length=1, max_length=80)]
Share = Annotated[float, Field(ge=-1e6, le=1e6)]
Level = Annotated[float, Field(ge=-96, le=24)]


class EffectBody(Part):
    """One effect."""

    kind: Named
    params: dict[str, Any] = Field(default_factory=dict)


class RampBody(Part):
    """A ramp, as long as so many frames."""

    frames: Annotated[float, Field(ge=0, le=2**30)] = 0


class Seconds(Part):
    """A ring-out of a length."""

    seconds: Annotated[float, Field(ge=0, le=24 * 3600)]


Effects = Annotated[tuple[EffectBody, ...], Field(strict=False, max_length=MOST_EFFECTS)]
RingOut = Literal["auto", "none"] | Seconds


class ChainBody(Part):
    """Effects in their order, and what the chain has of its own."""

    effects: Annotated[Effects, Field(min_length=1)]
    ring_out: RingOut = "auto"


class TreatmentBody(ChainBody):
    """That and its ramps."""

    ramp_in: RampBody = RampBody()
    ramp_out: RampBody = RampBody()


class BedBody(Part):
    """A computed sound."""

    model: Named
    settings: dict[str, float | str] = Field(default_factory=dict)
    seed: Annotated[int, Field(ge=0, lt=2**31)] = 1
    gain_db: Level = 0.0


class PoseBody(Part):
    """A named set of values; each is ``VALUE``, or ``KIND:N/PARAMETER`` of the Nth such effect."""

    name: Title
    values: Annotated[dict[Title, float], Field(min_length=1, max_length=MOST_VALUES)]


class PosesBody(Part):
    """Poses in their order."""

    poses: Annotated[tuple[PoseBody, ...], Field(strict=False, min_length=1, max_length=MOST_POSES)]


class TreatmentPart(TreatmentBody):
    """A treatment of one's own recipe: on which of its tracks, and from which share to which."""

    part: Literal["treatment"]
    track: Annotated[int, Field(ge=0)] = 0
    start: Share = 0.0
    end: Share = 1.0
    name: Annotated[str, Field(max_length=400)] = ""


class SoundPart(BedBody):
    """A computed sound of one's own recipe; a hit only begins."""

    part: Literal["bed", "hit"]
    start: Share = 0.0
    end: Share = 1.0
    name: Annotated[str, Field(max_length=400)] = ""


class ClipPart(Part):
    """What becomes of the clip that one's own recipe is for."""

    part: Literal["clip"]
    effects: Effects = ()
    ring_out: RingOut = "auto"
    fade_in: RampBody | None = None
    fade_out: RampBody | None = None
    gain_db: Level | None = None


RecipePart = Annotated[TreatmentPart | SoundPart | ClipPart, Field(discriminator="part")]


class QuestionBody(Part):
    """What is asked, and for which values: ``PART/VALUE`` or ``PART/EFFECT/PARAMETER``."""

    label: Annotated[str, Field(min_length=1, max_length=80)]
    asks: Annotated[tuple[Title, ...], Field(strict=False, min_length=1, max_length=MOST_PARTS)]


class RecipeBody(Part):
    """A recipe of one's own: its parts over a stretch or on a clip, and what it asks."""

    needs: Literal["stretch", "clip"]
    tracks: Annotated[tuple[str, ...], Field(strict=False, max_length=MOST_PARTS)] = ()
    parts: Annotated[
        tuple[RecipePart, ...], Field(strict=False, min_length=1, max_length=MOST_PARTS)
    ]
    questions: Annotated[
        tuple[QuestionBody, ...], Field(strict=False, max_length=MOST_QUESTIONS)
    ] = ()


BODIES: dict[Kind, type[Part]] = {
    "effect": EffectBody, "chain": ChainBody, "treatment": TreatmentBody, "bed": BedBody,
    "poses": PosesBody, "recipe": RecipeBody,
}  # fmt: skip
