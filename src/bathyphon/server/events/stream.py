"""Server-sent events: one stream a browser, fed from one LISTEN a process."""

from __future__ import annotations

import asyncio
import contextlib
import json
from collections.abc import AsyncIterator

import psycopg
from asgiref.sync import sync_to_async
from django.db import connections
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase

from bathyphon.server.away import DATABASE_AWAY
from bathyphon.server.letting_go import let_go
from bathyphon.server.notify import CHANNEL
from bathyphon.server.sessions import signed_in

KEEP_ALIVE_SECONDS = 15.0
LONGEST_QUEUE = 1000
SESSION_ENDED = '{"kind": "session"}'
"""One of the account's sessions has ended: each window looks whether it was its own."""
SIGNED_IN_SECONDS = 60.0
"""So often it is asked anyhow: a session may end by its age."""


class _Hub:
    """Hands each notification to the queues of its account."""

    def __init__(self) -> None:
        self._queues: dict[asyncio.Queue[str], int] = {}
        self._task: asyncio.Task[None] | None = None

    def join(self, account: int) -> asyncio.Queue[str]:
        queue: asyncio.Queue[str] = asyncio.Queue(LONGEST_QUEUE)
        self._queues[queue] = account
        if self._task is None or self._task.done():
            self._task = asyncio.get_running_loop().create_task(self._listen())
        return queue

    def leave(self, queue: asyncio.Queue[str]) -> None:
        self._queues.pop(queue, None)

    async def _listen(self) -> None:
        while self._queues:
            with contextlib.suppress(psycopg.Error, OSError):
                connection = await psycopg.AsyncConnection.connect(_dsn(), autocommit=True)
                async with connection:
                    await connection.execute(f"listen {CHANNEL}")
                    self._everyone('{"kind": "hello"}')
                    async for notice in connection.notifies():
                        self._hand_out(notice.payload)
            await asyncio.sleep(0.5)

    def _hand_out(self, payload: str) -> None:
        event = json.loads(payload)
        account = event.pop("account")
        text = json.dumps(event)
        for queue, owner in list(self._queues.items()):
            if owner == account:
                _put(queue, text)

    def _everyone(self, text: str) -> None:
        # After a broken connection something may have been missed: windows then look again.
        for queue in self._queues:
            _put(queue, text)


_hub = _Hub()


async def events(request: HttpRequest) -> HttpResponseBase:
    """The event stream of the signed-in account."""
    user = await request.auser()
    if not user.is_authenticated or user.pk is None:
        return HttpResponse(status=401)
    key = request.session.session_key or ""
    response = StreamingHttpResponse(_stream(user.pk, key), content_type="text/event-stream")
    response["Cache-Control"] = "no-store"
    response["X-Accel-Buffering"] = "no"
    return response


async def _stream(account: int, session: str) -> AsyncIterator[str]:
    queue = _hub.join(account)
    loop = asyncio.get_running_loop()
    asked = loop.time()
    try:
        yield "retry: 1000\n\n"
        while True:
            try:
                text = await asyncio.wait_for(queue.get(), KEEP_ALIVE_SECONDS)
            except TimeoutError:
                text = ""
            if text == SESSION_ENDED or loop.time() - asked > SIGNED_IN_SECONDS:
                asked = loop.time()
                if not await _still(session):
                    return
            if text != SESSION_ENDED:
                yield f"data: {text}\n\n" if text else ": still here\n\n"
    finally:
        _hub.leave(queue)


async def _still(session: str) -> bool:
    """Whether a window's account is still signed in there."""
    try:
        return await sync_to_async(signed_in)(session) is not None
    except DATABASE_AWAY:
        # The database is away: whoever is signed in is so until it says otherwise.
        return True
    finally:
        await let_go()


def _put(queue: asyncio.Queue[str], text: str) -> None:
    with contextlib.suppress(asyncio.QueueFull):
        queue.put_nowait(text)


def _dsn() -> str:
    """How the server is reached: all that a connection string can say, such as ``sslmode``."""
    parameters = connections["default"].get_connection_params()
    known = {option.keyword.decode() for option in psycopg.pq.Conninfo.get_defaults()}
    wanted = {k: v for k, v in parameters.items() if k in known and v not in (None, "")}
    return psycopg.conninfo.make_conninfo("", **wanted)
