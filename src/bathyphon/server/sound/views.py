"""Sound blocks for the player."""

from __future__ import annotations

import asyncio
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from threading import Event
from typing import TYPE_CHECKING, Any
from uuid import UUID

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.auth.models import User
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.http import require_http_methods

from bathyphon.core.errors import Refused
from bathyphon.server.bodies import read_body, whole_number
from bathyphon.server.letting_go import let_go
from bathyphon.server.reels.head import Head, head_of
from bathyphon.server.reels.models import Reel
from bathyphon.server.sessions import signed_in_lately
from bathyphon.server.sound.drafted import Drafted, recorded
from bathyphon.server.sound.players import PIECES, players
from bathyphon.server.sound.threads import at_once, threads

if TYPE_CHECKING:
    from bathyphon.server.sound.engine import Block
    from bathyphon.server.sound.media import PreparedMedia

HIGHEST_BLOCK = 10**6
BUSY = "As many requests for sound as can be are under way already; ask again in a moment."


@dataclass(frozen=True)
class _Request:
    """What is asked for, by whom, and of what."""

    reel: UUID
    player: str
    generation: int
    side: str
    block: int
    part: int | None
    parts: int
    have: str
    account: int
    provisional: list[dict[str, Any]] = field(default_factory=list)
    compared: bool = False


@require_http_methods(["GET", "POST"])
async def sound_block(request: HttpRequest, id: UUID, side: str, block: int) -> HttpResponse:
    """One second of sound as planar float32, or with ``part`` a fifth of it at once, with ``parts``
    so many of them.

    ``player`` and ``generation`` in the query say who asks; an older generation is dropped, and so
    is what is asked for by a window that has gone. A POST carries a draft, whose sound is computed
    but never committed: a :class:`~bathyphon.server.sound.drafted.Drafted`; to the side ``other``
    it says what is compared: a :class:`~bathyphon.server.listening.states.Heard`.
    """
    if side not in ("treated", "untreated", "other") or block > HIGHEST_BLOCK:
        raise Http404
    found = await sync_to_async(_look_up)(request, id)
    if found is None:
        return JsonResponse({"detail": "Please sign in."}, status=401)
    account, head, media = found
    try:
        asked = _asked(request, account, id, side, block)
        if side == "other":
            head, media, asked = await sync_to_async(_compared)(
                request, account, head, media, asked
            )
        elif request.method == "POST":
            asked = await sync_to_async(_drafted)(request, head, asked)
        # Others may wait for the engine a long time: not with a connection in their hands.
        await let_go()
        if not players.begin(asked.player, asked.generation, asked.account):
            return JsonResponse({"detail": BUSY}, status=429, headers={"Retry-After": "1"})
        answer = await _made(asked, head, media)
    except Refused as error:
        return JsonResponse({"detail": error.message, "where": error.where}, status=422)
    answer["X-Revision"] = str(head.revision)
    answer["Cache-Control"] = "no-store"
    return answer


async def _made(asked: _Request, head: Head, media: PreparedMedia) -> HttpResponse:
    """Have the sound worked out; when nobody waits for it any more, that ends by itself."""
    gone = Event()

    def wanted() -> bool:
        return not gone.is_set() and players.wanted(asked.player, asked.generation)

    loop = asyncio.get_running_loop()
    try:
        pool = threads if asked.part is None else at_once
        return await loop.run_in_executor(pool, _compute, asked, head, media, wanted)
    except asyncio.CancelledError:
        gone.set()
        raise
    finally:
        players.end(asked.player, asked.generation, asked.account)


def _compute(
    asked: _Request, head: Head, media: PreparedMedia, wanted: Callable[[], bool]
) -> HttpResponse:
    # The engine takes seconds to import: not before the first reel sounds.
    from bathyphon.core.engine.keys import Superseded
    from bathyphon.server.sound.engine import Asked, engine_of

    state = Asked(head, media, asked.side, asked.provisional, wanted)
    try:
        if not wanted():
            raise Superseded
        engine = engine_of(asked.reel, head.reel.sample_rate)
        if asked.part is None:
            found = engine.block(state, asked.block, asked.have)
        else:
            found = engine.piece(state, asked.block, asked.part, asked.parts)
    except Superseded:
        return JsonResponse({"detail": "A newer request has come."}, status=409)
    return _answer(asked, found)


def _answer(asked: _Request, found: Block | None) -> HttpResponse:
    committed = asked.compared or not asked.provisional
    exact = committed and (found is None or found.exact)
    if found is None:
        response = HttpResponse(status=304)
    else:
        response = HttpResponse(found.pcm, content_type="application/octet-stream")
        response["X-Samples"] = str(found.samples)
        if found.key:
            response["ETag"] = f'"{found.key}"'
    response["X-Block"] = "exact" if exact else "provisional"
    return response


def _look_up(request: HttpRequest, id: UUID) -> tuple[User, Head, PreparedMedia] | None:
    """Who asks, the reel and its media; None for strangers."""
    from bathyphon.server.sound.media import PreparedMedia

    account = signed_in_lately(request.COOKIES.get(settings.SESSION_COOKIE_NAME, ""))
    if account is None:
        return None
    revision = Reel.visible_to(account).filter(pk=id).values_list("revision", flat=True).first()
    if revision is None:
        raise Http404
    head = head_of(id, revision)
    return account, head, PreparedMedia(account, head.reel)


def _drafted(request: HttpRequest, head: Head, asked: _Request) -> _Request:
    """With what a hand has done, as far as it is not in the reel yet."""
    draft = read_body(Drafted, request.body, "this draft")
    there = recorded(asked.reel, draft.edits, head) if draft.edits else set()
    return replace(asked, provisional=draft.without(there).commands)


def _compared(
    request: HttpRequest, account: User, head: Head, media: PreparedMedia, asked: _Request
) -> tuple[Head, PreparedMedia, _Request]:
    """Another state of the reel that is compared with it."""
    from bathyphon.server.listening.states import asked_for, read_heard

    heard = read_heard(request.body)
    head, media = asked_for(account, asked.reel, head, media, heard)
    side = "treated" if heard.treated else "untreated"
    return head, media, replace(asked, side=side, provisional=heard.commands, compared=True)


def _asked(request: HttpRequest, account: User, id: UUID, side: str, block: int) -> _Request:
    part = request.GET.get("part")
    number = None if part is None else whole_number(part)
    if part is not None and (number is None or number >= PIECES):
        raise Refused(f"expected a part from 0 to {PIECES - 1}", "part")
    parts = whole_number(request.GET.get("parts", "1")) or 0
    if not 1 <= parts <= PIECES - (number or 0):
        raise Refused(f"expected 1 to {PIECES - (number or 0)} parts", "parts")
    return _Request(
        id,
        f"{id}/{request.GET.get('player', '')[:64]}",
        whole_number(request.GET.get("generation", "0")) or 0,
        side,
        block,
        number,
        parts,
        request.headers.get("If-None-Match", "").strip('"'),
        account.pk,
    )
