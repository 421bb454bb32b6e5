"""The hand's line: a WebSocket over which a window asks what its draft looks and sounds like.

A hand moves at every frame of the screen: over one line that stays open nobody has to be let in
anew for each answer.
"""

from __future__ import annotations

import asyncio
import contextlib
import logging
from collections.abc import Awaitable, Callable
from functools import partial
from typing import TYPE_CHECKING, Any
from urllib.parse import urlsplit
from uuid import UUID

from asgiref.sync import sync_to_async
from django.db import connection

from bathyphon.core.errors import Refused
from bathyphon.server.away import DATABASE_AWAY
from bathyphon.server.reels.head import Head, head_of
from bathyphon.server.reels.models import Reel
from bathyphon.server.sessions import session_key, signed_in_lately
from bathyphon.server.sound.threads import at_once, threads

if TYPE_CHECKING:
    from bathyphon.server.sound.media import PreparedMedia

log = logging.getLogger(__name__)

Scope = dict[str, Any]
Receive = Callable[[], Awaitable[dict[str, Any]]]
Send = Callable[[dict[str, Any]], Awaitable[None]]

LONGEST_QUESTION = 2**20
STRANGER, NOTHING_HERE, BROKEN = 4401, 4404, 1011


async def hand(scope: Scope, receive: Receive, send: Send, reel: UUID) -> None:
    """Serve one window's line, until it is closed.

    A message is a question as JSON (:class:`bathyphon.server.sound.draft.Wanted`). Its answers are
    frames: the sound first, then what takes longer to see. Both bear the question's number.
    """
    await receive()
    if not _own_page(scope):
        await send({"type": "websocket.close", "code": STRANGER})
        return
    await send({"type": "websocket.accept"})
    line = _Line(scope, send, reel)
    try:
        while (message := await receive())["type"] == "websocket.receive":
            body = message.get("text") or ""
            if len(body) > LONGEST_QUESTION or not await line.answer(body.encode()):
                break
    finally:
        line.hang_up()
    if not line.closed:
        with contextlib.suppress(RuntimeError, OSError):
            await send({"type": "websocket.close", "code": line.why})


class _Line:
    """One open line: who is at its other end, and the answers that are still being made."""

    def __init__(self, scope: Scope, send: Send, reel: UUID) -> None:
        self._session = session_key(_headers(scope).get("cookie", ""))
        self._send = send
        self._reel = reel
        self._showing: set[asyncio.Task[None]] = set()
        self.closed = False
        self.why = 1000

    async def answer(self, body: bytes) -> bool:
        """Answer a question; false if whoever asks has no business here."""
        found = await sync_to_async(self._looked_up)()
        if found is None:
            return False
        # The engine takes seconds to import: not before the first reel sounds.
        from bathyphon.server.sound.draft import read_wanted, refused, showing, sounding

        loop = asyncio.get_running_loop()
        try:
            wanted = read_wanted(body)
        except Refused as error:
            return await self._say(refused(0, error))
        try:
            first = await loop.run_in_executor(at_once, sounding, self._reel, *found, wanted)
        except Refused as error:
            return await self._say(refused(wanted.number, error))
        said = await self._say(first)
        if wanted.derived or wanted.drawing:
            show = partial(showing, self._reel, *found, wanted)
            task = loop.create_task(self._show(show))
            self._showing.add(task)
            task.add_done_callback(self._showing.discard)
        return said

    def hang_up(self) -> None:
        """Nobody waits for what is still being made."""
        for task in self._showing:
            task.cancel()

    async def _show(self, show: Callable[[], bytes]) -> None:
        try:
            frame = await asyncio.get_running_loop().run_in_executor(threads, show)
        except Exception:
            # Whoever waits for it calls again, and asks again.
            log.exception("a draft could not be drawn")
            with contextlib.suppress(RuntimeError, OSError):
                await self._send({"type": "websocket.close", "code": BROKEN})
            self.closed = True
            return
        await self._say(frame)

    async def _say(self, frame: bytes) -> bool:
        try:
            await self._send({"type": "websocket.send", "bytes": frame})
        except (RuntimeError, OSError):
            # The window has gone.
            self.closed = True
        return not self.closed

    def _looked_up(self) -> tuple[Head, PreparedMedia] | None:
        try:
            return self._look_up()
        except DATABASE_AWAY:
            # The database may have been away since the last question.
            connection.close()
            return self._look_up()

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


def _headers(scope: Scope) -> dict[str, str]:
    return {name.decode("latin-1"): value.decode("latin-1") for name, value in scope["headers"]}


def _own_page(scope: Scope) -> bool:
    """Whether it was our own page that has called: cookies come along from any."""
    headers = _headers(scope)
    return urlsplit(headers.get("origin", "")).netloc == headers.get("host", "-")
