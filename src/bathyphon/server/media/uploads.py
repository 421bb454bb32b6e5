"""Resumable uploads by the open tus protocol, version 1.0.0: core, creation and termination.

A file arrives in parts of any size; after a lost connection, a reload or a restart the client asks
how far it came and goes on from there.
"""

from __future__ import annotations

import base64
import binascii
import fcntl
from collections.abc import Callable
from typing import BinaryIO
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.http import require_http_methods

from bathyphon.core.errors import Refused
from bathyphon.formats.names import plain_name
from bathyphon.server.bodies import whole_number
from bathyphon.server.media.intake import adopt, refuse_size
from bathyphon.server.media.models import Upload
from bathyphon.server.media.own import plain_folder, take_sound

VERSION = "1.0.0"
PART = "application/offset+octet-stream"
PIECE = 2**20
MOST_OPEN = 200
TAKERS: dict[str, Callable[[User, Upload], UUID]] = {"sound": take_sound}
"""What takes in uploads that are no media, by what these say that they hold; it gives the id of
what it has made."""


@require_http_methods(["GET", "POST", "OPTIONS"])
def uploads(request: HttpRequest) -> HttpResponse:
    """Begin an upload (POST), list those that are not complete (GET)."""
    if request.method == "OPTIONS":
        return _tus(HttpResponse(status=204), {"Tus-Extension": "creation,termination"})
    user = request.user
    if not isinstance(user, User):
        return JsonResponse({"detail": "Please sign in."}, status=401)
    open_ones = Upload.objects.filter(account=user, media=None, made=None).order_by("created")
    if request.method == "GET":
        lines = [
            {"id": str(u.pk), "name": u.name, "size": u.size, "offset": u.offset}
            for u in open_ones[:MOST_OPEN]
        ]
        return JsonResponse({"uploads": lines})
    try:
        made = _begin(request, user, open_ones.count())
    except Refused as error:
        return _tus(JsonResponse({"detail": error.message, "where": error.where}, status=422))
    return _tus(HttpResponse(status=201), {"Location": f"/api/uploads/{made.pk}"})


@require_http_methods(["HEAD", "PATCH", "DELETE", "GET"])
def upload(request: HttpRequest, id: UUID) -> HttpResponse:
    """Say how far an upload is (HEAD), take another part (PATCH), give it up (DELETE)."""
    user = request.user
    if not isinstance(user, User):
        return JsonResponse({"detail": "Please sign in."}, status=401)
    row = Upload.objects.filter(pk=id, account=user).first()
    if row is None:
        raise Http404
    if request.method == "GET":
        taken = {"media": row.media_id, "made": row.made}
        return JsonResponse({key: str(id) if id else None for key, id in taken.items()})
    if request.method == "DELETE":
        row.path.unlink(missing_ok=True)
        row.delete()
        return _tus(HttpResponse(status=204))
    if request.method == "HEAD":
        place = {"Upload-Offset": str(row.offset), "Upload-Length": str(row.size)}
        return _tus(HttpResponse(status=200), place)
    return _tus(_append(request, row, user))


def _begin(request: HttpRequest, user: User, already: int) -> Upload:
    length = whole_number(request.headers.get("Upload-Length", ""))
    if length is None:
        raise Refused("the upload must say its length in bytes", "Upload-Length")
    said = _metadata(request.headers.get("Upload-Metadata", ""))
    name = plain_name(said.get("filename", ""))
    rate = whole_number(said.get("rate", "48000"))
    if rate is None or not 8000 <= rate <= 192000:
        raise Refused("the rate must lie between 8000 and 192000", "rate")
    holds = said.get("holds", "medium")
    if holds != "medium" and holds not in TAKERS:
        raise Refused(f"“{holds[:20]}” is nothing that can be sent here", "holds")
    if already >= MOST_OPEN:
        raise Refused(f"{MOST_OPEN} uploads are under way already; finish or cancel some first")
    with transaction.atomic():
        refuse_size(user, name, length)
        made = Upload.objects.create(
            account=user,
            name=name,
            size=length,
            rate=rate,
            holds=holds,
            folder=plain_folder(said.get("folder", "")),
        )
    made.path.parent.mkdir(parents=True, exist_ok=True)
    made.path.touch()
    return made


def _append(request: HttpRequest, row: Upload, user: User) -> HttpResponse:
    if request.content_type != PART:
        return HttpResponse(f"a part is sent as {PART}", status=415)
    wanted = request.headers.get("Upload-Offset", "")
    if row.complete or not row.path.exists():
        return HttpResponse(status=409)
    with row.path.open("r+b") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return HttpResponse("another part is on its way", status=423)
        if wanted != str(file.seek(0, 2)):
            return HttpResponse("the part does not begin where the last one ended", status=409)
        if not _copy(request, file, row.size):
            return HttpResponse("more has come than was announced", status=413)
        offset = file.tell()
        if offset == row.size:
            try:
                _take_in(row, user)
            except Refused as error:
                # It would be no better if it were sent again.
                row.path.unlink(missing_ok=True)
                row.delete()
                return JsonResponse({"detail": error.message, "where": error.where}, status=422)
    return HttpResponse(status=204, headers={"Upload-Offset": str(offset)})


def _take_in(row: Upload, user: User) -> None:
    if row.holds == "medium":
        row.media = adopt(user, row.name, row.path, row.rate)
    else:
        row.made = TAKERS[row.holds](user, row)
    row.save(update_fields=["media", "made"])


def _copy(request: HttpRequest, file: BinaryIO, size: int) -> bool:
    while piece := request.read(PIECE):
        if file.tell() + len(piece) > size:
            return False
        file.write(piece)
    return True


def _metadata(text: str) -> dict[str, str]:
    """``key base64, key base64 …`` as the protocol writes it."""
    found = {}
    for pair in text.split(","):
        key, _, value = pair.strip().partition(" ")
        try:
            found[key] = base64.b64decode(value, validate=True).decode("utf-8", "replace")
        except (binascii.Error, ValueError):
            continue
    return found


def _tus(response: HttpResponse, headers: dict[str, str] | None = None) -> HttpResponse:
    for key, value in {"Tus-Resumable": VERSION, "Tus-Version": VERSION, **(headers or {})}.items():
        response[key] = value
    response["Cache-Control"] = "no-store"
    return response
