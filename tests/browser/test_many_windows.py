"""Many windows, slow downloads and clients that have gone: everybody else is answered."""

import http.client
import time

import pytest
from conftest import Api

WINDOWS = 60
"""Almost four times the connections that a process has to the database."""


def opened(server, api, path):
    """A request whose answer is only begun to be read."""
    line = http.client.HTTPConnection("127.0.0.1", server.port, timeout=20)
    cookies = "; ".join(f"{c['name']}={c['value']}" for c in api.cookies())
    line.request("GET", path, headers={"Cookie": cookies})
    answer = line.getresponse()
    assert answer.status == 200, path
    return line, answer


@pytest.fixture
def own(server):
    return Api(server, server.django("sign_in_link", "many-windows", "--make"))


@pytest.mark.parametrize("what", ["events", "media"])
def test_streams_keep_no_connection(server, own, made, owner, what):
    if what == "events":
        api, path = own, "/api/events"
    else:
        film = next(line for name, line in owner.lines.items() if name == "song.wav")
        api, path = owner.api, f"/api/media/{film['id']}/sound.wav"
    lines = [opened(server, api, path) for _ in range(WINDOWS)]
    try:
        began = time.monotonic()
        for _ in range(20):
            assert own.get("/api/account")["name"] == "many-windows"
        # With connections kept the first of them would wait for half a minute, and fail.
        assert time.monotonic() - began < 20
    finally:
        for line, _ in lines:
            line.close()


def test_a_stream_ends_with_its_session(server):
    """Whoever signs out at a borrowed desk leaves nothing that goes on listening there."""
    here, there = (
        Api(server, server.django("sign_in_link", "leaving", "--make")) for _ in range(2)
    )
    lines = [opened(server, api, "/api/events") for api in (here, there)]
    for _, answer in lines:
        assert answer.readline().startswith(b"retry")
    here.delete("/api/session")
    (ended, left), (goes_on, stays) = ((line, answer) for line, answer in lines)
    ended.sock.settimeout(10)
    left.read()
    # The other window's session is another one: it hears of what happens next.
    there.post("/api/reels", {"name": "Still here"})
    goes_on.sock.settimeout(2)
    with pytest.raises(TimeoutError):
        stays.read()
    for line, _ in lines:
        line.close()
