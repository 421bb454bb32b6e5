"""Addresses: the API, the one-time sign-in link, and the application for everything else."""

from __future__ import annotations

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from bathyphon.server.accounts.views import enter
from bathyphon.server.api import api
from bathyphon.server.events.stream import events
from bathyphon.server.exports.views import export_file
from bathyphon.server.media.views import media_file
from bathyphon.server.sound.views import sound_block


@ensure_csrf_cookie
def application(request: HttpRequest) -> HttpResponse | FileResponse:
    """The application's page; its own router decides what to show."""
    page = settings.WEB_DIST / "index.html"
    if not page.exists():
        return HttpResponse("The front end has not been built: run ./bathyphon demo", status=503)
    response = HttpResponse(page.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("api/events", events),
    path("api/media/<uuid:id>/<str:part>", media_file),
    path("api/reels/<uuid:id>/sound/<str:side>/<int:block>", sound_block),
    path("api/exports/<uuid:id>/file", export_file),
    path("api/", api.urls),
    path("enter/<str:token>", enter),
    re_path(r"^(?!api/|static/|assets/).*$", application),
]
