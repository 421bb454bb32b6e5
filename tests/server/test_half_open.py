"""Connections over which no request comes, or only half of one."""

import asyncio
import contextlib
import socket
import time
from threading import Thread

import pytest
import uvicorn

from bathyphon.server import half_open

pytestmark = pytest.mark.by_the_clock

WHOLE = b"GET / HTTP/1.1\r\nHost: x\r\n\r\n"


async def answer(scope, receive, send):
    if scope["type"] == "websocket":
        await receive()
        await send({"type": "websocket.accept"})
        await asyncio.sleep(1.2)
        await send({"type": "websocket.send", "text": "still here"})
        return
    if scope["path"] == "/slow":
        await asyncio.sleep(1.2)
    await send({"type": "http.response.start", "status": 200,
                "headers": [(b"content-length", b"4")]})  # fmt: skip
    await send({"type": "http.response.body", "body": b"here"})


@pytest.fixture(scope="module")
def port():
    patch = pytest.MonkeyPatch()
    patch.setattr(half_open, "HEAD_SECONDS", 0.5)
    with socket.create_server(("127.0.0.1", 0)) as free:
        number = free.getsockname()[1]
    server = uvicorn.Server(
        uvicorn.Config(
            answer, port=number, http="bathyphon.server.half_open:HalfOpenProtocol",
            lifespan="off", log_level="error",
        )
    )  # fmt: skip
    thread = Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield number
    server.should_exit = True
    thread.join()
    patch.undo()


def closed_after(connection, until=5.0):
    """Seconds until the other side closes."""
    began = time.monotonic()
    connection.settimeout(until)
    assert connection.recv(100) == b""
    return time.monotonic() - began


def answered(connection):
    """Whether an answer comes whole, in however many pieces."""
    said = b""
    while not said.endswith(b"here"):
        piece = connection.recv(1000)
        if not piece:
            return False
        said += piece
    return True


@pytest.mark.parametrize("said", [b"", b"GE", b"GET / HTTP/1.1\r\nHost: x\r\nX-A: b"])
def test_half_a_request_is_not_waited_for(port, said):
    with socket.create_connection(("127.0.0.1", port)) as connection:
        connection.sendall(said)
        assert 0.3 < closed_after(connection) < 3


def test_a_letter_now_and_then_does_not_help(port):
    with socket.create_connection(("127.0.0.1", port)) as connection:
        connection.sendall(b"GET / HTTP/1.1\r\n")
        began = time.monotonic()
        with pytest.raises(OSError):  # noqa: PT012
            while time.monotonic() - began < 10:
                connection.sendall(b"X-A: b\r\n")
                time.sleep(0.1)
        assert time.monotonic() - began < 4


def test_whole_requests_are_answered_one_after_the_other(port):
    with socket.create_connection(("127.0.0.1", port)) as connection:
        connection.settimeout(5)
        for _ in range(3):
            connection.sendall(WHOLE)
            assert answered(connection)
            time.sleep(0.2)


def test_a_request_that_comes_slowly_but_in_time_is_answered(port):
    for _ in range(20):
        began = time.monotonic()
        with socket.create_connection(("127.0.0.1", port)) as connection:
            connection.settimeout(5)
            with contextlib.suppress(OSError):
                for byte in WHOLE:
                    connection.sendall(bytes([byte]))
                    time.sleep(0.005)
            # Where the machine was slower than that it is sent again.
            if time.monotonic() - began < 0.8 * half_open.HEAD_SECONDS:
                assert answered(connection)
                return
    pytest.fail("This machine sends nothing in time.")


def test_an_answer_that_takes_long_is_waited_for(port):
    with socket.create_connection(("127.0.0.1", port)) as connection:
        connection.settimeout(5)
        connection.sendall(WHOLE.replace(b"/ ", b"/slow "))
        assert answered(connection)


def test_a_line_that_stays_open_is_no_half_request(port):
    from websockets.sync.client import connect

    with connect(f"ws://127.0.0.1:{port}/") as line:
        assert line.recv(timeout=5) == "still here"
