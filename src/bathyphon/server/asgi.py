"""The ASGI application."""

import os
import re
import sys
from importlib import import_module
from threading import Timer
from typing import Any
from uuid import UUID

from django.core.asgi import get_asgi_application

from bathyphon.memory import keep_memory
from bathyphon.server.front_door import FrontDoor
from bathyphon.server.tidying import tidying

FIRST_ANSWERS_SECONDS = 5.0
TURN_SECONDS = 0.0005
"""A thread holds the interpreter for so long while others want it. A block of sound lets go of it
many times, for a kernel each: with the usual 5 ms an edit beside it would hold it up each time."""
HAND = re.compile(r"/api/reels/([0-9a-f-]{36})/hand")

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathyphon.server.settings.local")
keep_memory()
sys.setswitchinterval(TURN_SECONDS)
pages = FrontDoor(get_asgi_application())


async def application(scope: dict[str, Any], receive: Any, send: Any) -> None:
    """Requests go to Django, a hand's line to its own answering."""
    if scope["type"] == "lifespan":
        await _live(receive, send)
        return
    if scope["type"] != "websocket":
        await pages(scope, receive, send)
        return
    from bathyphon.server.sound.hand import hand

    found = HAND.fullmatch(scope["path"])
    if found is None:
        await receive()
        await send({"type": "websocket.close"})
        return
    await hand(scope, receive, send, UUID(found[1]))


async def _live(receive: Any, send: Any) -> None:
    """From the server's start to its end."""
    await receive()
    later = Timer(FIRST_ANSWERS_SECONDS, _make_ready)
    later.daemon = True
    later.start()
    await send({"type": "lifespan.startup.complete"})
    await receive()
    later.cancel()
    await send({"type": "lifespan.shutdown.complete"})


def _make_ready() -> None:
    """Do what takes a second, neither before the first answers nor when somebody wants to hear."""
    import_module("scipy.signal")
    tidying.begin()
