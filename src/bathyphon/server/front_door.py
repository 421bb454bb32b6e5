"""What is turned away before anything of it is read or kept.

Django spools a whole body to the disk before it asks who sends it. Here the length is looked at
first: strangers may send a form, who is signed in may send what its address takes, and nobody may
take for ever.
"""

from __future__ import annotations

import asyncio
import json
import re
from collections.abc import Awaitable, Callable, Mapping
from typing import Any

from asgiref.sync import sync_to_async
from django.conf import settings

from bathyphon.server.bodies import whole_number

Message = Mapping[str, Any]
Scope = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[Scope, Receive, Send], Awaitable[None]]

OF_STRANGERS = 2**16
"""Bytes: a form to sign in with fits many times."""
OF_A_PART = 2**26
"""Bytes of one part of an upload; the application itself sends eighth parts of it."""
TOO_SLOW = "the request did not arrive in time; send it again"
SPARE = 2**20
"""What a form adds to the file in it."""
PARTS = re.compile(r"/api/uploads/[0-9a-f-]{36}")
WHOLE_FILES = "/api/media"
FIRST_SECONDS, SLOWEST = 30.0, 4096
"""A body comes whole within so many seconds, and one more for each so many bytes of it."""


class FrontDoor:
    """Looks at the length of a body, at who sends it and at how long it takes.

    Parameters
    ----------
    inside : callable
        The ASGI application that answers what comes in.
    """

    def __init__(self, inside: Application) -> None:
        self._inside = inside

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or say why not."""
        try:
            body = _Body(scope, receive, await _limit(scope))
        except _TurnedAway as why:
            await _say(send, why)
            return
        begun = False

        async def sending(message: Message) -> None:
            nonlocal begun
            if body.refused is None:
                begun = True
                await send(message)

        await self._inside(scope, body.receive, sending)
        if body.refused and not begun:
            await _say(send, body.refused)


class _TurnedAway(Exception):
    def __init__(self, status: int, detail: str) -> None:
        self.status = status
        super().__init__(detail)


class _Body:
    """A body on its way in, no longer and no slower than it may be."""

    def __init__(self, scope: Scope, receive: Receive, limit: int) -> None:
        self._receive = receive
        self._limit = limit
        self._come = 0
        self._whole = False
        self._began = asyncio.get_running_loop().time()
        self.refused: _TurnedAway | None = None
        headers = dict(scope["headers"])
        said = headers.get(b"content-length")
        if said is None:
            # Without a length and without parts there is none (RFC 9112, section 6.3).
            return
        length = whole_number(said.decode("latin-1"), 18)
        if length is None:
            raise _TurnedAway(400, "Content-Length must be a number")
        if length > limit:
            raise _too_long(limit)

    async def receive(self) -> Message:
        """The next piece of it; that who sends it has gone, where it is refused."""
        if self._whole:
            return await self._receive()
        left = self._began + FIRST_SECONDS + self._come / SLOWEST - _now()
        try:
            message = await asyncio.wait_for(self._receive(), max(0.0, left))
        except TimeoutError:
            return self._refuse(_TurnedAway(408, TOO_SLOW))
        if message["type"] != "http.request":
            return message
        self._come += len(message.get("body", b""))
        self._whole = not message.get("more_body", False)
        if self._come > self._limit:
            return self._refuse(_too_long(self._limit))
        return message

    def _refuse(self, why: _TurnedAway) -> Message:
        self.refused = why
        self._whole = True
        return {"type": "http.disconnect"}


async def _limit(scope: Scope) -> int:
    """How many bytes a request may send."""
    headers = dict(scope["headers"])
    said = whole_number(headers.get(b"content-length", b"0").decode("latin-1"), 18)
    in_parts = b"transfer-encoding" in headers
    if not in_parts and said is not None and said <= OF_STRANGERS:
        return OF_STRANGERS
    if not await _known(headers.get(b"cookie", b"").decode("latin-1")):
        return OF_STRANGERS
    path = scope["path"]
    if PARTS.fullmatch(path):
        return OF_A_PART
    if path == WHOLE_FILES:
        return int(settings.BATHYPHON_LARGEST_UPLOAD) + SPARE
    return int(settings.DATA_UPLOAD_MAX_MEMORY_SIZE)


async def _known(cookies: str) -> bool:
    """Whether a request comes from somebody who is signed in."""
    # Django's own modules can be imported only once it has been set up.
    from bathyphon.server.letting_go import let_go
    from bathyphon.server.sessions import session_key, signed_in

    key = session_key(cookies)
    if not key:
        return False
    found = await sync_to_async(signed_in)(key)
    # The body that follows may take long.
    await let_go()
    return found is not None


def _too_long(limit: int) -> _TurnedAway:
    size = f"{limit / 2**20:.0f} MB" if limit >= 2**20 else f"{limit / 2**10:.0f} kB"
    return _TurnedAway(413, f"this is longer than {size}, the most that is taken here at once")


async def _say(send: Send, why: _TurnedAway) -> None:
    body = json.dumps({"detail": str(why), "where": ""}).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(body)).encode()),
        # What still comes is not listened to.
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": why.status, "headers": headers})
    await send({"type": "http.response.body", "body": body})


def _now() -> float:
    return asyncio.get_running_loop().time()
