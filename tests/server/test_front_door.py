"""Bodies that are too long, too slow or of strangers: turned away before they are read."""

import asyncio
import json
import time

import pytest
from asgiref.sync import async_to_sync

from bathyphon.server import front_door
from bathyphon.server.front_door import OF_A_PART, OF_STRANGERS, FrontDoor

MB = 2**20
AN_ID = "00000000-0000-4000-8000-000000000000"


class Inside:
    """What answers, and how much came to it."""

    def __init__(self):
        self.read = 0
        self.asked = False

    async def __call__(self, scope, receive, send):
        self.asked = True
        while True:
            message = await receive()
            if message["type"] != "http.request":
                return
            self.read += len(message.get("body", b""))
            if not message.get("more_body"):
                break
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"taken"})


def knock(path, pieces, method="POST", cookie="", length=None, wait=0.0):
    """Send a request through the door; its status, what was said, what was taken off the line,
    and what there is inside."""
    inside = Inside()
    taken = 0
    sent = []
    line = iter(pieces)
    headers = [(b"cookie", f"sessionid={cookie}".encode())] if cookie else []
    if length is None:
        headers.append((b"transfer-encoding", b"chunked"))
    else:
        headers.append((b"content-length", str(length).encode()))

    async def receive():
        nonlocal taken
        await asyncio.sleep(wait)
        piece = next(line, None)
        if piece is None:
            return {"type": "http.request", "body": b"", "more_body": False}
        taken += len(piece)
        return {"type": "http.request", "body": piece, "more_body": True}

    async def send(message):
        sent.append(message)

    scope = {"type": "http", "path": path, "method": method, "headers": headers}
    async_to_sync(FrontDoor(inside))(scope, receive, send)
    body = b"".join(m.get("body", b"") for m in sent)
    said = json.loads(body)["detail"] if body.startswith(b"{") else body.decode()
    return sent[0]["status"], said, taken, inside


def endless(piece=bytes(2**16)):
    while True:
        yield piece


@pytest.mark.parametrize("cookie", ["", "x" * 32, "nobody-s"])
@pytest.mark.parametrize("path", ["/api/media", "/api/session", f"/api/uploads/{AN_ID}", "/"])
def test_strangers_send_a_form_and_no_more(db, path, cookie):
    status, said, taken, inside = knock(path, endless(), cookie=cookie, length=400 * MB)
    assert (status, taken, inside.asked) == (413, 0, False)
    assert "64 kB" in said
    # Without a length it is counted as it comes.
    status, _, taken, inside = knock(path, endless(), cookie=cookie)
    assert status == 413
    assert taken <= OF_STRANGERS + 2**16
    assert knock(path, [bytes(1000)], cookie=cookie, length=1000)[:2] == (200, "taken")
    assert knock(path, [bytes(1000)], cookie=cookie)[:2] == (200, "taken")


@pytest.mark.parametrize(
    ("path", "most"),
    [
        ("/api/reels", 16 * MB),
        ("/api/presets", 16 * MB),
        (f"/api/uploads/{AN_ID}", OF_A_PART),
        (f"/api/uploads/{AN_ID}/more", 16 * MB),
        ("/api/media", 20 * 2**30 + MB),
    ],
)
def test_who_is_signed_in_sends_what_an_address_takes(api, path, most):
    status, said, taken, _ = knock(path, endless(), cookie=api.cookie, length=most + 1)
    assert (status, taken) == (413, 0)
    assert f"{most / MB:.0f} MB" in said
    assert knock(path, [b"a", b"b"], cookie=api.cookie, length=most)[0] == 200
    if most < 100 * MB:
        status, _, taken, _ = knock(path, endless(bytes(MB)), cookie=api.cookie)
        assert status == 413
        assert most < taken <= most + MB


@pytest.mark.parametrize("length", ["²", "-1", "1e3", "0x10", "9" * 5000, "", " ", "1,1"])
def test_a_length_that_is_none(db, length):
    inside = Inside()
    sent = []

    async def receive():
        raise AssertionError("nothing is read")

    async def send(message):
        sent.append(message)

    scope = {"type": "http", "path": "/", "method": "POST",
             "headers": [(b"content-length", length.encode())]}  # fmt: skip
    async_to_sync(FrontDoor(inside))(scope, receive, send)
    assert sent[0]["status"] == 400
    assert not inside.asked


@pytest.mark.parametrize(("wait", "pieces"), [(30.0, []), (0.05, [b"x"] * 600)])
def test_nobody_takes_for_ever(db, monkeypatch, wait, pieces):
    """Neither who says nothing nor who says a letter now and then."""
    monkeypatch.setattr(front_door, "FIRST_SECONDS", 0.3)
    began = time.monotonic()
    status, said, _, _ = knock("/api/session", pieces, wait=wait, length=100)
    assert status == 408
    assert "in time" in said
    assert time.monotonic() - began < 15


def test_who_is_slow_but_steady_is_waited_for(api, monkeypatch):
    """A long part over a slow line takes longer than a form may."""
    monkeypatch.setattr(front_door, "FIRST_SECONDS", 0.3)
    status, _, taken, _ = knock(
        f"/api/uploads/{AN_ID}", [bytes(2**14)] * 12, wait=0.1, cookie=api.cookie,
        length=12 * 2**14,
    )  # fmt: skip
    assert (status, taken) == (200, 12 * 2**14)
