"""The hand's line: a WebSocket over which a window asks what its draft looks and sounds like.

A hand moves at every frame of the screen: over one line that stays open nobody has to be let in
anew for each answer.
"""

from __future__ import annotations

import asyncio
import contextlib
import logging
import time
from collections.abc import Awaitable, Callable
from functools import partial
from typing import TYPE_CHECKING, Any, TypeVar
from urllib.parse import urlsplit
from uuid import UUID

from asgiref.sync import sync_to_async
from django.db import connection

from bathyphon.core.errors import Refused
from bathyphon.server.away import DATABASE_AWAY
from bathyphon.server.reels.head import Head, head_of
from bathyphon.server.reels.models import Reel
from bathyphon.server.sessions import session_key, signed_in_lately
from bathyphon.server.sound.drafted import recorded
from bathyphon.server.sound.threads import at_once, threads

if TYPE_CHECKING:
    from bathyphon.server.sound.draft import Wanted
    from bathyphon.server.sound.media import PreparedMedia

log = logging.getLogger(__name__)

Scope = dict[str, Any]
Receive = Callable[[], Awaitable[dict[str, Any]]]
Send = Callable[[dict[str, Any]], Awaitable[None]]
Found = TypeVar("Found")

LONGEST_QUESTION = 2**20
LOOKED_UP_SECONDS = 1.0
"""How old a look-up may be, while the window knows no newer revision of the reel."""
TOO_OLD_SECONDS = 5.0
"""How old it may be at most. Until then the next one is made beside the answers."""
STRANGER, NOTHING_HERE, BROKEN = 4401, 4404, 1011


async def hand(scope: Scope, receive: Receive, send: Send, reel: UUID) -> None:
    """Serve one window's line, until it is closed.

    A message is a question as JSON (:class:`bathyphon.server.sound.draft.Wanted`). Its answers are
    frames: the sound first, then what takes longer to see. Both bear the question's number. One is
    answered after the other; one that the next asks to give up, or that a window has left behind,
    is not worked out to its end.
    """
    await receive()
    if not _own_page(scope):
        await send({"type": "websocket.close", "code": STRANGER})
        return
    await send({"type": "websocket.accept"})
    line = _Line(scope, send, reel)
    coming = asyncio.ensure_future(receive())
    answering: asyncio.Future[bool] | None = None
    try:
        while (message := await coming)["type"] == "websocket.receive":
            body = message.get("text") or ""
            coming = asyncio.ensure_future(receive())
            if len(body) > LONGEST_QUESTION:
                break
            answering = asyncio.ensure_future(line.answer(body.encode()))
            await asyncio.wait({answering, coming}, return_when=asyncio.FIRST_COMPLETED)
            if coming.done():
                line.comes_next(coming.result())
            if not await answering:
                break
    finally:
        coming.cancel()
        if answering:
            answering.cancel()
        line.hang_up()
    if not line.closed:
        with contextlib.suppress(RuntimeError, OSError):
            await send({"type": "websocket.close", "code": line.why})


class _Line:
    """One open line: who is at its other end, and the answers that are still being made."""

    _found: tuple[Head, PreparedMedia]
    _looked_up: float | None = None
    _looking: asyncio.Task[None] | None = None
    _instead: int | None = None

    def __init__(self, scope: Scope, send: Send, reel: UUID) -> None:
        self._session = session_key(_headers(scope).get("cookie", ""))
        self._send = send
        self._reel = reel
        self._showing: set[asyncio.Task[None]] = set()
        self.closed = False
        self.why = 1000

    def comes_next(self, message: dict[str, Any]) -> None:
        """What is said while a question is being answered, which may be to give that up."""
        from bathyphon.server.sound.draft import read_wanted

        if message["type"] != "websocket.receive":
            self.closed = True
            return
        with contextlib.suppress(Refused):
            self._instead = read_wanted((message.get("text") or "").encode()).instead

    async def answer(self, body: bytes) -> bool:
        """Answer a question; false if whoever asks has no business here."""
        if (first := self._looked_up is None) and not await self._find():
            return False
        # The engine takes seconds to import: not before the first reel sounds.
        from bathyphon.core.engine.keys import Superseded
        from bathyphon.server.sound.draft import read_wanted, refused, showing, sounding

        loop = asyncio.get_running_loop()
        try:
            wanted = read_wanted(body)
        except Refused as error:
            return await self._say(refused(0, error))
        if not first and self._behind(wanted) and not await self._find():
            return False
        self._look_again()
        found = self._found
        if wanted.edits:
            look = partial(recorded, self._reel, wanted.edits, found[0])
            there = await sync_to_async(_asked)(look)
            wanted = wanted.without(there)
        still = partial(self._wants, wanted.number)
        make = partial(sounding, self._reel, *found, wanted, still)
        try:
            sound = await loop.run_in_executor(at_once, make)
        except Superseded:
            return True
        except Refused as error:
            return await self._say(refused(wanted.number, error))
        said = await self._say(sound)
        if wanted.derived or wanted.drawing:
            show = partial(showing, self._reel, *found, wanted)
            task = loop.create_task(self._show(show))
            self._showing.add(task)
            task.add_done_callback(self._showing.discard)
        return said

    def _wants(self, number: int) -> bool:
        """Whether the window still wants a question answered."""
        return not self.closed and self._instead != number

    def hang_up(self) -> None:
        """Nobody waits for what is still being made."""
        for task in self._showing:
            task.cancel()
        if self._looking:
            self._looking.cancel()

    async def _show(self, show: Callable[[], bytes]) -> None:
        try:
            frame = await asyncio.get_running_loop().run_in_executor(threads, show)
        except Exception:
            # Whoever waits for it calls again, and asks again.
            log.exception("a draft could not be drawn")
            await self._close(BROKEN)
            return
        await self._say(frame)

    async def _close(self, why: int) -> None:
        with contextlib.suppress(RuntimeError, OSError):
            await self._send({"type": "websocket.close", "code": why})
        self.closed = True

    async def _say(self, frame: bytes) -> bool:
        if self.closed:
            return False
        try:
            await self._send({"type": "websocket.send", "bytes": frame})
        except (RuntimeError, OSError):
            # The window has gone.
            self.closed = True
        return not self.closed

    async def _find(self) -> bool:
        """Look up the reel; false if whoever asks has no business here."""
        found = await sync_to_async(_asked)(self._look_up)
        if found is None:
            return False
        # Two look-ups may be under way, and end in the other order.
        if self._looked_up is None or found[0].revision >= self._found[0].revision:
            self._found = found
        self._looked_up = time.monotonic()
        return True

    def _behind(self, wanted: Wanted) -> bool:
        """Whether what was looked up cannot be what the window asks about."""
        if wanted.revision is None or self._looked_up is None:
            return True
        # One without the edit that a draft has become is right with the draft.
        if self._found[0].revision < wanted.revision:
            return True
        return time.monotonic() - self._looked_up > TOO_OLD_SECONDS

    def _look_again(self) -> None:
        """Look the reel up beside the answers, now and then: a hand does not wait for that."""
        if self._looked_up is None or (self._looking and not self._looking.done()):
            return
        if time.monotonic() - self._looked_up > LOOKED_UP_SECONDS:
            self._looking = asyncio.get_running_loop().create_task(self._let_go_or_go_on())

    async def _let_go_or_go_on(self) -> None:
        try:
            found = await self._find()
        except DATABASE_AWAY:
            # The question that comes when this is too old asks it again, and says so.
            return
        if not found:
            await self._close(self.why)

    def _look_up(self) -> tuple[Head, PreparedMedia] | None:
        """The reel as it is now, and its media; nothing for who has no business here."""
        from bathyphon.server.sound.media import PreparedMedia

        account = signed_in_lately(self._session)
        if account is None:
            self.why = STRANGER
            return None
        reel = Reel.visible_to(account).filter(pk=self._reel).first()
        if reel is None:
            self.why = NOTHING_HERE
            return None
        head = head_of(reel.pk, reel.revision)
        return head, PreparedMedia(account, head.reel)


def _asked(ask: Callable[[], Found]) -> Found:
    """What the database says, which may have been away since it was asked last."""
    try:
        return ask()
    except DATABASE_AWAY:
        connection.close()
        return ask()


def _headers(scope: Scope) -> dict[str, str]:
    return {name.decode("latin-1"): value.decode("latin-1") for name, value in scope["headers"]}


def _own_page(scope: Scope) -> bool:
    """Whether it was our own page that has called: cookies come along from any."""
    headers = _headers(scope)
    return urlsplit(headers.get("origin", "")).netloc == headers.get("host", "-")
