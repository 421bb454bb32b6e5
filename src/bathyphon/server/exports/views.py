"""Fetching a finished export."""

from __future__ import annotations

from uuid import UUID

from asgiref.sync import sync_to_async
from django.http import Http404, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase

from bathyphon.server.exports.models import Export
from bathyphon.server.ranges import file_response


async def export_file(request: HttpRequest, id: UUID) -> HttpResponseBase:
    """The rendered file."""
    user = await request.auser()
    if not user.is_authenticated:
        return HttpResponse(status=401)
    found = Export.visible_to(user).filter(pk=id, state=Export.DONE)
    export = await sync_to_async(found.first)()
    if export is None:
        raise Http404
    return file_response(request, export.path, "audio/wav", str(export.pk), export.name)
