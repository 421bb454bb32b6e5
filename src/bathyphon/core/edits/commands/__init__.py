"""The commands that change a reel. Each addresses things by id and plans its own patch."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field, TypeAdapter, ValidationError

from bathyphon.core.edits.commands.clips import (
    CopyClips,
    JoinClips,
    MoveClips,
    RemoveClips,
    SlipClip,
    SplitClips,
    TrimClip,
)
from bathyphon.core.edits.commands.cuts import AddCut, MoveCut, NameShot, RemoveCut, SetCuts
from bathyphon.core.edits.commands.effects import (
    AddEffect,
    AddEffects,
    ApplyPreset,
    MoveEffect,
    RemoveEffect,
    SetEffect,
)
from bathyphon.core.edits.commands.fades import CopyFades, SetCrossfade, SetFade
from bathyphon.core.edits.commands.keyframes import (
    MoveKeyframes,
    PutKeyframes,
    RecordKeyframes,
    RemoveKeyframes,
    ReverseKeyframes,
    ScaleKeyframes,
    SetKeyframes,
    SetLane,
    SoftenKeyframes,
    ThinKeyframes,
)
from bathyphon.core.edits.commands.markers import AddMarkers, RemoveMarker, SetMarker
from bathyphon.core.edits.commands.media import AddMedium, EndBeforeBeat, RelinkMedium, SetBeats
from bathyphon.core.edits.commands.poses import (
    AddPose,
    RemovePose,
    SetPose,
    StampPoses,
    UnlinkKeyframes,
)
from bathyphon.core.edits.commands.speed import FitClip, SetSpeed, UnhurryClips
from bathyphon.core.edits.commands.sync import SyncClips, TieClips
from bathyphon.core.edits.commands.tracks import (
    AddClip,
    AddTrack,
    MoveTrack,
    RemoveTrack,
    SetClip,
    SetTrack,
)
from bathyphon.core.edits.commands.treatments import (
    AddTreatment,
    BringAlong,
    CopyTreatment,
    OrderTreatment,
    RemoveTreatment,
    RingOutTo,
    SetChain,
    SetTreatment,
    StretchToCut,
)
from bathyphon.core.edits.commands.whole import RenameReel, SetMix, SetPicture
from bathyphon.core.errors import Refused

Command = (
    RenameReel
    | AddMedium
    | RelinkMedium
    | SetBeats
    | EndBeforeBeat
    | SetPicture
    | AddCut
    | RemoveCut
    | MoveCut
    | NameShot
    | SetCuts
    | AddMarkers
    | SetMarker
    | RemoveMarker
    | AddTrack
    | SetTrack
    | RemoveTrack
    | AddClip
    | SetClip
    | MoveClips
    | TrimClip
    | SetFade
    | CopyFades
    | SetCrossfade
    | SlipClip
    | SplitClips
    | JoinClips
    | CopyClips
    | RemoveClips
    | SetSpeed
    | FitClip
    | UnhurryClips
    | TieClips
    | SyncClips
    | AddTreatment
    | SetTreatment
    | RemoveTreatment
    | SetChain
    | RingOutTo
    | AddEffect
    | AddEffects
    | ApplyPreset
    | SetEffect
    | MoveEffect
    | RemoveEffect
    | SetMix
    | MoveTrack
    | CopyTreatment
    | BringAlong
    | StretchToCut
    | OrderTreatment
    | PutKeyframes
    | MoveKeyframes
    | SetKeyframes
    | ScaleKeyframes
    | ReverseKeyframes
    | SoftenKeyframes
    | RemoveKeyframes
    | SetLane
    | RecordKeyframes
    | ThinKeyframes
    | AddPose
    | SetPose
    | RemovePose
    | StampPoses
    | UnlinkKeyframes
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
