"""Addresses: the API, the one-time sign-in link, and the application for everything else."""

from __future__ import annotations

import re
from urllib.parse import urlencode

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.urls import path, re_path, register_converter
from django.views.decorators.csrf import ensure_csrf_cookie

from bathyphon.server.api import api
from bathyphon.server.built import built_file
from bathyphon.server.events.stream import events
from bathyphon.server.exports.views import export_file
from bathyphon.server.media.uploads import upload, uploads
from bathyphon.server.media.views import media_file
from bathyphon.server.reels.archives import reel_archive
from bathyphon.server.sound.views import sound_block


class PartConverter:
    """The name of a prepared part of a medium."""

    regex = r"[\w-]+\.\w+"

    def to_python(self, value: str) -> str:
        """As it is."""
        return value

    def to_url(self, value: str) -> str:
        """As it is."""
        return value


register_converter(PartConverter, "part")


_NEEDS_ACCOUNT = re.compile(r"^/$|^/reels/")


@ensure_csrf_cookie
def application(request: HttpRequest) -> HttpResponse:
    """The application's page; its own router decides what to show."""
    if _NEEDS_ACCOUNT.match(request.path) and not request.user.is_authenticated:
        # Before the application is loaded: signing in needs next to nothing of it.
        there = "" if request.path == "/" else "?" + urlencode({"to": request.path})
        return HttpResponseRedirect(f"/sign-in{there}")
    page = settings.WEB_DIST / "index.html"
    if not page.exists():
        return HttpResponse("The front end has not been built: run ./bathyphon demo", status=503)
    response = HttpResponse(page.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("assets/<str:name>", built_file),
    path("mark.svg", built_file, {"name": "mark.svg"}),
    path("api/events", events),
    path("api/uploads", uploads),
    path("api/uploads/<uuid:id>", upload),
    # Parts have an ending; what has none is a call of the API.
    path("api/media/<uuid:id>/<part:part>", media_file),
    path("api/reels/<uuid:id>/sound/<str:side>/<int:block>", sound_block),
    path("api/reels/<uuid:id>/archive.zip", reel_archive),
    path("api/exports/<uuid:id>/file", export_file),
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", application),
]
