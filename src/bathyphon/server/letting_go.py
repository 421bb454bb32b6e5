"""Connections to the database go back to the pool before an answer waits or streams.

A pool of sixteen serves any number of open windows that way: Django itself gives a connection back
when an answer has been sent, which of a stream of events is when its window closes.
"""

from __future__ import annotations

from collections.abc import Awaitable

from asgiref.sync import sync_to_async
from django.db import connections
from django.http.response import HttpResponseBase

from bathyphon.server.middleware import Middleware


async def let_go() -> None:
    """Give the connection of this request back; whoever needs one again gets another."""
    # In the request's own thread, in which it was taken.
    await sync_to_async(_let_go)()


def _let_go() -> None:
    for connection in connections.all(initialized_only=True):
        # Within a transaction it is still somebody's: a test's, for one.
        if not connection.in_atomic_block:
            connection.close_if_unusable_or_obsolete()


class LetGoMiddleware(Middleware):
    """Lets go of the database before an answer streams."""

    async def _later(self, response: Awaitable[HttpResponseBase]) -> HttpResponseBase:
        found = await response
        if found.streaming:
            await let_go()
        return self.finished(found)
