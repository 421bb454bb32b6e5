"""HTTP/1.1 that does not wait for ever for a request to begin.

A connection costs memory and a handle. Who opens many and sends a line now and then would keep them
all: a request's head arrives within a time, or its connection is closed.
"""

from __future__ import annotations

import asyncio

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

HEAD_SECONDS = 20.0


class HalfOpenProtocol(H11Protocol):
    """Closes a connection over which no whole head comes."""

    _timer: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Begin to wait for the first head."""
        super().connection_made(transport)
        self._look()

    def data_received(self, data: bytes) -> None:
        """Something has come: it may have been the last of a head."""
        super().data_received(data)
        self._look()

    def connection_lost(self, exc: Exception | None) -> None:
        """Nothing is waited for any more."""
        super().connection_lost(exc)
        self._stop()

    def _look(self) -> None:
        # Only what has come whole moves the other side's state on.
        if self.conn.their_state is not h11.IDLE:
            self._stop()
        elif self._timer is None:
            self._timer = self.loop.call_later(HEAD_SECONDS, self._end)

    def _stop(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _end(self) -> None:
        self._timer = None
        if self.conn.their_state is h11.IDLE and not self.transport.is_closing():
            self.transport.close()
