"""The reel document: what one opens, as immutable typed objects.

A document is plain JSON; :func:`read_reel` turns it into a :class:`Reel` or refuses it with the
path of the fault. Keys that this version does not know are kept.
"""

from __future__ import annotations

from fractions import Fraction
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from bathyphon.core.timing.clock import Clock, parse_rate

FORMAT = "bathyphon-reel"
VERSION = 1
LONGEST = 2**47
Document = dict[str, Any]
Id = Annotated[str, Field(min_length=1, max_length=80, pattern=r"^[A-Za-z0-9_.:-]+$")]
Samples = Annotated[int, Field(ge=-LONGEST, le=LONGEST)]
Length = Annotated[int, Field(ge=0, le=LONGEST)]
Some = Annotated[int, Field(ge=1, le=LONGEST)]
Name = Annotated[str, Field(max_length=400)]
FadeShape = Literal["linear", "equal_power", "smooth", "log", "bend"]
Ease = Literal["hold", "linear", "smooth", "equal_power", "log", "bend"]


class Part(BaseModel):
    """A part of the document: immutable, strict in its types, keeping unknown keys."""

    model_config = ConfigDict(
        frozen=True,
        strict=True,
        extra="allow",
        allow_inf_nan=False,
        ignored_types=(cached_property,),
    )


class KeyframeValue(Part):
    """One keyframe; ``at`` counts samples from the owner's start and may be negative.

    ``pose`` names the pose whose value it has, ``stamp`` the stamping that it moves with.
    """

    at: Samples
    value: float
    ease: Ease = "linear"
    bend: Annotated[float, Field(ge=-1, le=1)] = 0.0
    soft: Annotated[float, Field(ge=0, le=1)] = 0.0
    pose: Id | None = None
    stamp: Id | None = None


class Keyframes(Part):
    """A value that moves; ``pinned`` keyframes stay where they are when a clip's speed changes.

    A level that begins or ends in silence moves there in amplitude. In older documents it moved
    straight in decibels: ``straight`` keeps it so.
    """

    pinned: bool = False
    straight: bool = False

    keyframes: Annotated[tuple[KeyframeValue, ...], Field(min_length=1, strict=False)]


def _number_or_keyframes(value: Any) -> Any:
    if isinstance(value, (dict, Keyframes)):
        return value if isinstance(value, Keyframes) else Keyframes.model_validate(value)
    return value


Movable = Annotated[float | Keyframes, BeforeValidator(_number_or_keyframes)]


class Ramp(Part):
    """Length and shape of a ramp or fade; ``bend`` counts where the shape is one."""

    length: Length = 0
    shape: FadeShape = "linear"
    bend: Annotated[float, Field(ge=-1, le=1)] = 0.0


class EffectPart(Part):
    """One effect of a chain."""

    id: Id
    kind: str
    bypass: bool = False
    params: dict[str, Any] = Field(default_factory=dict)


class KeptSettings(Part):
    """Other settings of a chain, kept under a name: all its effects with their keyframes."""

    name: Annotated[str, Field(min_length=1, max_length=400)]
    effects: Annotated[tuple[EffectPart, ...], Field(strict=False)] = ()


class Chain(Part):
    """An ordered chain of effects with a strength: the treatment of a clip, a track or the mix.

    What plays and is exported is ``effects``; it belongs to the settings named ``chosen``.
    """

    effects: Annotated[tuple[EffectPart, ...], Field(strict=False)] = ()
    strength: Movable = 100.0
    ring_out: Literal["auto", "none"] | Length = "auto"
    bypass: bool = False
    kept: Annotated[tuple[KeptSettings, ...], Field(strict=False)] = ()
    chosen: Name = ""


class Treatment(Chain):
    """A chain on a span of a track."""

    id: Id
    name: Name = ""
    start: Samples
    length: Some
    ramp_in: Ramp = Ramp()
    ramp_out: Ramp = Ramp()


def _always(value: float | Keyframes, wanted: float) -> bool:
    if isinstance(value, Keyframes):
        return all(k.value == wanted for k in value.keyframes)
    return value == wanted


class Speed(Part):
    """Speed and pitch of a clip.

    The clip begins ``origin`` samples into a stream that begins at its ``source_start``;
    ``source_length`` are the samples of the medium that were fitted into its length.
    """

    percent: Movable = 100.0
    pitch: Literal["hold", "follow"] = "hold"
    semitones: Movable = 0.0
    cents: Movable = 0.0
    formants: Literal["hold", "follow"] = "hold"
    formant_shift: Movable = 0.0
    material: Literal["voice", "music"] = "voice"
    origin: Length = 0
    source_length: Length | None = None

    @cached_property
    def at_own_speed(self) -> bool:
        """Whether time goes by as it was recorded."""
        return _always(self.percent, 100.0)

    @cached_property
    def plain(self) -> bool:
        """Whether the clip plays as it was recorded."""
        still = (self.semitones, self.cents, self.formant_shift)
        return self.at_own_speed and all(_always(value, 0.0) for value in still)


class Clip(Part):
    """A stretch of a medium on a track; a ``bed`` stays with the cuts at its ends."""

    id: Id
    media: Id
    name: Name = ""
    start: Length
    length: Some
    source_start: Samples = 0
    gain_db: Movable = 0.0
    fade_in: Ramp = Ramp()
    fade_out: Ramp = Ramp()
    speed: Speed = Speed()
    treatment: Chain = Chain()
    enabled: bool = True
    tie: Samples | None = None
    bed: bool = False

    @property
    def end(self) -> int:
        """The sample after its last."""
        return self.start + self.length


class Track(Part):
    """Clips and treatments under one head; ``material`` is what it carries, where one has said."""

    id: Id
    name: Name = ""
    gain_db: Movable = 0.0
    pan: Movable = 0.0
    mute: bool = False
    solo: bool = False
    height: Literal["low", "middle", "high"] = "middle"
    folded: bool = False
    material: Literal["", "speech", "music", "bed"] = ""
    clips: Annotated[tuple[Clip, ...], Field(strict=False)] = ()
    treatments: Annotated[tuple[Treatment, ...], Field(strict=False)] = ()
    treatment: Chain = Chain()


class PictureClip(Part):
    """A stretch of a picture file."""

    media: Id
    start: Length
    length: Some
    source_start: Length = 0


class Shot(Part):
    """What is known of the shot that begins at a cut, and of the cut itself.

    ``length`` counts the frames of a soft cut, whose middle is ``frame``; ``by`` says who set it.
    """

    frame: Length
    name: Name = ""
    kind: Literal["hard", "dissolve", "fade"] = "hard"
    length: Length = 0
    by: Literal["hand", "finder", "file"] = "hand"


class Picture(Part):
    """The picture and its cuts, given as frame numbers of the reel.

    ``not_cuts`` are frames at which a found cut was taken away by hand.
    """

    clips: Annotated[tuple[PictureClip, ...], Field(strict=False)] = ()
    cuts: Annotated[tuple[Length, ...], Field(strict=False)] = ()
    shots: Annotated[tuple[Shot, ...], Field(strict=False)] = ()
    not_cuts: Annotated[tuple[Length, ...], Field(strict=False)] = ()


class BeatChoice(Part):
    """How a medium's beats are counted: faster or slower by a factor, and shifted in samples."""

    factor: Annotated[float, Field(ge=0.25, le=4)] = 1
    shift: Samples = 0


class Medium(Part):
    """A file that clips refer to by id; ``stream`` chooses one of its sounds, from 0.

    A ``place`` is empty: a template asks for a file there.
    """

    id: Id
    path: Annotated[str, Field(max_length=2000)]
    stream: Annotated[int, Field(ge=0, le=63)] = 0
    beats: BeatChoice = BeatChoice()
    place: bool = False


class Marker(Part):
    """A named moment; ``kind`` chooses its shape and colour."""

    id: Id
    at: Length
    label: Name = ""
    kind: Literal["note", "action", "sound", "music", "problem"] = "note"


class Pose(Part):
    """A named set of values, by the names of their lanes."""

    id: Id
    name: Name = ""
    values: dict[str, float] = Field(default_factory=dict)


class Mix(Part):
    """The sum of all tracks."""

    gain_db: Movable = 0.0
    treatment: Chain = Chain()


class Dismissed(Part):
    """A finding that somebody has looked at and wants to hear no more of, and why."""

    finding: Id
    word: Name = ""


class Listening(Part):
    """By what the reel is judged: thresholds that were set, null where nothing is asked for."""

    thresholds: dict[Id, float | None] = Field(default_factory=dict)
    dismissed: Annotated[tuple[Dismissed, ...], Field(strict=False)] = ()


class MadeByRecipe(Part):
    """A recipe that was carried out: its answers, and the parts that it made.

    ``prints`` tell whether each part is still as it was made; ``back`` takes all of it back.
    """

    id: Id
    recipe: Annotated[str, Field(max_length=64)]
    label: Annotated[str, Field(max_length=400)] = ""
    answers: dict[str, Any] = Field(default_factory=dict)
    place: dict[str, Any] = Field(default_factory=dict)
    parts: Annotated[tuple[str, ...], Field(strict=False)] = ()
    prints: Annotated[tuple[str, ...], Field(strict=False)] = ()
    back: Annotated[tuple[dict[str, Any], ...], Field(strict=False)] = ()


class Reel(Part):
    """A whole reel."""

    format: Literal["bathyphon-reel"]
    version: Literal[1]
    name: Name = ""
    frame_rate: str
    drop_frame: bool = False
    sample_rate: Annotated[int, Field(ge=8000, le=192000)]
    start_timecode: str = "00:00:00:00"
    media: Annotated[tuple[Medium, ...], Field(strict=False)] = ()
    picture: Picture = Picture()
    markers: Annotated[tuple[Marker, ...], Field(strict=False)] = ()
    poses: Annotated[tuple[Pose, ...], Field(strict=False)] = ()
    tracks: Annotated[tuple[Track, ...], Field(strict=False)] = ()
    mix: Mix = Mix()
    listening: Listening = Listening()
    made: Annotated[tuple[MadeByRecipe, ...], Field(strict=False)] = ()

    @cached_property
    def clock(self) -> Clock:
        """Conversion between samples, frames and timecode."""
        return Clock(parse_rate(self.frame_rate), self.sample_rate, self.drop_frame)

    @property
    def rate(self) -> Fraction:
        """Frames a second."""
        return self.clock.frame_rate
