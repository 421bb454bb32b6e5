"""Sound blocks for the player."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.http import require_http_methods

from bathyphon.core.errors import Refused
from bathyphon.server.reels.head import head_of
from bathyphon.server.reels.models import Reel

HIGHEST_BLOCK = 10**6
MOST_COMMANDS = 20


@require_http_methods(["GET", "POST"])
def sound_block(request: HttpRequest, id: UUID, side: str, block: int) -> HttpResponse:
    """One second of sound as planar float32.

    ``player`` and ``generation`` in the query say who asks; an older generation is dropped. A
    POST carries provisional commands, whose sound is computed but never committed.
    """
    if not isinstance(request.user, User):
        return JsonResponse({"detail": "Please sign in."}, status=401)
    reel = Reel.visible_to(request.user).filter(pk=id).first()
    if reel is None or side not in ("treated", "untreated") or block > HIGHEST_BLOCK:
        raise Http404
    player = request.GET.get("player", "")[:64]
    generation = _number(request.GET.get("generation", "0"))
    try:
        provisional = _commands(request) if request.method == "POST" else None
        return _answer(request, reel, side, block, f"{id}/{player}", generation, provisional)
    except Refused as error:
        return JsonResponse({"detail": error.message, "where": error.where}, status=422)


def _answer(
    request: HttpRequest,
    reel: Reel,
    side: str,
    block: int,
    player: str,
    generation: int,
    provisional: list[dict[str, Any]] | None,
) -> HttpResponse:
    # The engine takes seconds to import: not before the first reel sounds.
    from bathyphon.core.engine.runner import Superseded
    from bathyphon.server.sound.engine import engine_of, players

    assert isinstance(request.user, User)
    if not players.begin(player, generation):
        return JsonResponse({"detail": "Two requests are under way already."}, status=429)
    try:
        found = engine_of(reel.pk).block(
            request.user,
            head_of(reel.pk, reel.revision),
            side,
            block,
            request.headers.get("If-None-Match", "").strip('"'),
            lambda: players.wanted(player, generation),
            provisional,
        )
    except Superseded:
        return JsonResponse({"detail": "A newer request has come."}, status=409)
    finally:
        players.end(player, generation)
    if found is None:
        response = HttpResponse(status=304)
    else:
        response = HttpResponse(found.pcm, content_type="application/octet-stream")
        response["ETag"] = f'"{found.key}"'
        response["X-Samples"] = str(found.samples)
    response["X-Revision"] = str(reel.revision)
    response["X-Block"] = "provisional" if provisional else "exact"
    response["Cache-Control"] = "no-store"
    return response


def _commands(request: HttpRequest) -> list[dict[str, Any]]:
    try:
        data = json.loads(request.body)
    except ValueError:
        raise Refused("the request is not JSON") from None
    if not isinstance(data, list) or len(data) > MOST_COMMANDS:
        raise Refused(f"expected a list of at most {MOST_COMMANDS} commands")
    return data


def _number(text: str) -> int:
    return int(text) if text.isdigit() and len(text) < 16 else 0
