"""Markers and cuts out of a reel as files, and files into edits."""

from __future__ import annotations

import uuid
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router, Schema
from ninja.files import UploadedFile

from bathyphon.core.errors import Refused
from bathyphon.formats.lists import cuts_csv, markers_csv, markers_vtt, read_list
from bathyphon.server.current import account_of
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.models import Reel

router = Router(tags=["lists"])
LARGEST = 5 * 2**20
WRITERS = {
    "markers.csv": (markers_csv, "text/csv"),
    "markers.vtt": (markers_vtt, "text/vtt"),
    "cuts.csv": (cuts_csv, "text/csv"),
}


class ReadList(Schema):
    """The edit that brings in a list."""

    command: dict[str, Any]
    count: int


@router.get("{uuid:id}/lists/{name}", include_in_schema=False)
def write_list(request: HttpRequest, id: UUID, name: str) -> HttpResponse:
    """Markers or cuts as a file to save."""
    reel = get_object_or_404(Reel.visible_to(account_of(request)), pk=id)
    if name not in WRITERS:
        raise Refused(f"there is no list “{name}”; there are {', '.join(WRITERS)}")
    writer, kind = WRITERS[name]
    text = writer(head_of(reel.pk, reel.revision).reel)
    response = HttpResponse(text, content_type=f"{kind}; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@router.post("{uuid:id}/lists", response=ReadList)
def read_in(request: HttpRequest, id: UUID, file: File[UploadedFile]) -> Any:
    """Read a list; the window applies the edit, so that it can be undone like any other."""
    reel = get_object_or_404(Reel.visible_to(account_of(request)), pk=id)
    if (file.size or 0) > LARGEST:
        raise Refused(f"“{file.name}” is too large for a list")
    command = read_list(file.name or "", file.read(), head_of(reel.pk, reel.revision).reel)
    for marker in command.get("markers", []):
        marker["id"] = f"k-{uuid.uuid4().hex[:12]}"
    found = command.get("markers") or command.get("cuts") or []
    return {"command": command, "count": len(found)}
