"""``./bathyphon start``: its documented settings work, what is killed is started again, it ends."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import re
import signal
import socket
import subprocess
import sys
import time
import uuid
from pathlib import Path

import psycopg
import pytest

pytestmark = pytest.mark.by_the_clock

ROOT = Path(__file__).parents[2]
START = (
    "import sys; sys.path.insert(0, 'tools/launch'); import serve;"
    "sys.exit(serve.start(sys.argv[1:]))"
)
NAME = "films.example"
ADDRESS = "127.0.0.2"


@pytest.fixture
def database():
    """A database of its own on the server that the tests have."""
    url = re.sub(r"/[^/]*$", "/postgres", os.environ["DATABASE_URL"])
    name = f"kept_{uuid.uuid4().hex[:8]}"
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"create database {name}")
    yield re.sub(r"/[^/]*$", f"/{name}", url)
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"drop database {name} with (force)")


class Started:
    """The command as somebody starts it, and what it prints."""

    def __init__(self, url: str | None, folder: Path, port: int, start: str = START) -> None:
        self.port = port
        self.told = (folder / "told").open("w+")
        env = {
            **os.environ, "DATABASE_URL": url or "", "BATHYPHON_DATA": str(folder / "files"),
            "BATHYPHON_HOSTS": NAME, "BATHYPHON_BIND": ADDRESS, "BATHYPHON_ACCOUNT": "keeper",
            "PYTHONUNBUFFERED": "1",
            "BATHYPHON_SECRET_KEY": "kept-running-0123456789-abcdefghijklmno",
        }  # fmt: skip
        env.pop("DJANGO_SETTINGS_MODULE", None)
        if not url:
            del env["DATABASE_URL"]
        self.process = subprocess.Popen(
            [sys.executable, "-c", start, "--port", str(port)],
            env=env, cwd=ROOT, stdout=self.told, stderr=subprocess.STDOUT, start_new_session=True,
        )  # fmt: skip

    def text(self) -> str:
        self.told.flush()
        return Path(self.told.name).read_text()

    def until(self, words: str, seconds: float = 90) -> None:
        for _ in range(round(seconds / 0.1)):
            if words in self.text():
                return
            assert self.process.poll() is None, self.text()
            time.sleep(0.1)
        raise AssertionError(f"“{words}” is never said: {self.text()}")

    def ask(self, host: str = NAME) -> int:
        connection = http.client.HTTPConnection(ADDRESS, self.port, timeout=5)
        connection.request("GET", "/api/account", headers={"Host": host})
        return connection.getresponse().status

    def sign_in(self) -> int:
        """What a wrong password is answered with: the database has to be asked for it."""
        connection = http.client.HTTPConnection(ADDRESS, self.port, timeout=20)
        try:
            body = json.dumps({"name": uuid.uuid4().hex, "password": "guess"})
            connection.request("POST", "/api/session", body,
                               {"Host": NAME, "Content-Type": "application/json"})  # fmt: skip
            return connection.getresponse().status
        finally:
            connection.close()

    def answers(self, seconds: float = 60) -> bool:
        for _ in range(round(seconds / 0.2)):
            with contextlib.suppress(OSError, http.client.HTTPException):
                self.ask()
                return True
            time.sleep(0.2)
        return False

    def children(self, words: str) -> list[int]:
        found = subprocess.run(
            ["ps", "-ww", "-o", "pid=,args=", "--ppid", str(self.process.pid)],
            capture_output=True, text=True, check=False,
        ).stdout.splitlines()  # fmt: skip
        return [int(line.split()[0]) for line in found if words in line]


@pytest.fixture
def started(database, tmp_path):
    with socket.create_server((ADDRESS, 0)) as free:
        port = free.getsockname()[1]
    made = Started(database, tmp_path, port)
    made.until("The link signs in once.")
    yield made
    if made.process.poll() is None:
        made.process.kill()
    with contextlib.suppress(ProcessLookupError):
        os.killpg(made.process.pid, signal.SIGKILL)


def test_it_answers_to_its_name_heals_and_ends_with_windows_open(started):
    assert f"http://{NAME}:{started.port}/sign-in?to=/#link=" in started.text()
    assert started.ask() == 401
    assert started.ask("other.example") == 400
    for words, name in (
        ("--queues media", "The worker"),
        ("--queues exports", "The export worker"),
        ("uvicorn", "The server"),
    ):
        (first,) = started.children(words)
        os.kill(first, signal.SIGKILL)
        started.until(f"{name} was killed by SIGKILL; restarting in 1 s.", 20)
        for _ in range(150):
            again = [pid for pid in started.children(words) if pid != first]
            if again:
                break
            time.sleep(0.1)
        assert again
        assert started.answers()
        assert started.process.poll() is None
    # A window that has its stream of events open does not keep it from ending.
    link = re.search(r"#link=(\S+)", started.text())
    assert link
    line = http.client.HTTPConnection(ADDRESS, started.port, timeout=20)
    line.request("GET", "/sign-in", headers={"Host": NAME})
    page = line.getresponse()
    page.read()
    token = re.search(r"csrftoken=([^;]+)", str(page.headers))
    assert token
    line.request("POST", "/api/session/link", json.dumps({"token": link[1]}), {
        "Host": NAME, "Content-Type": "application/json", "Cookie": token[0],
        "X-CSRFToken": token[1],
    })  # fmt: skip
    signed_in = line.getresponse()
    signed_in.read()
    cookie = re.search(r"sessionid=[^;]+", str(signed_in.headers))
    assert cookie
    line.request("GET", "/api/account", headers={"Host": NAME, "Cookie": cookie[0]})
    assert json.loads(line.getresponse().read()) == {"name": "keeper"}
    line.request("GET", "/api/events", headers={"Host": NAME, "Cookie": cookie[0]})
    assert line.getresponse().status == 200
    (server,) = started.children("uvicorn")
    began = time.monotonic()
    started.process.send_signal(signal.SIGTERM)
    assert started.process.wait(timeout=30) == 0
    print(f"ended after {time.monotonic() - began:.1f} s")
    assert not Path(f"/proc/{server}").exists()


OWN = (
    "import sys; sys.path.insert(0, 'tools/launch'); from pathlib import Path; import database;"
    "database.HOME = Path({home!r}); database.DATA = database.HOME / 'data';"
    "import serve; sys.exit(serve.start(sys.argv[1:]))"
)


def test_its_own_database_is_started_again_and_waited_for(tmp_path_factory):
    folder = tmp_path_factory.mktemp("own")
    for parent in (folder, *folder.parents):
        if parent != Path("/tmp") and parent.is_relative_to("/tmp"):
            parent.chmod(0o755)
    with socket.create_server((ADDRESS, 0)) as free:
        port = free.getsockname()[1]
    made = Started(None, folder, port, OWN.format(home=str(folder / "postgres")))
    try:
        made.until("The link signs in once.", 150)
        assert made.ask() == 401
        pid = folder / "postgres" / "data" / "postmaster.pid"
        for _ in range(2):
            os.kill(int(pid.read_text().splitlines()[0]), signal.SIGKILL)
            # Meanwhile nobody gets a fault: the request waits, or is told to ask again.
            began = time.monotonic()
            said = made.sign_in()
            assert said in (403, 503)
            assert time.monotonic() - began < 15
            made.until("starting it again", 30)
            for _ in range(200):
                if made.sign_in() == 403:
                    break
                time.sleep(0.2)
            assert made.sign_in() == 403
            time.sleep(4)
        for words in ("uvicorn", "--queues media", "--queues exports"):
            for _ in range(150):
                if made.children(words):
                    break
                time.sleep(0.2)
            assert made.children(words)
        made.process.send_signal(signal.SIGTERM)
        assert made.process.wait(timeout=60) == 0
    finally:
        if made.process.poll() is None:
            made.process.kill()
        subprocess.run(["pkill", "-f", str(folder / "postgres")], check=False)


def test_what_it_runs_does_not_outlive_it(started):
    ours = [pid for words in ("uvicorn", "procrastinate") for pid in started.children(words)]
    assert len(ours) == 3
    started.process.kill()
    started.process.wait()
    for _ in range(200):
        if not any(Path(f"/proc/{pid}").exists() for pid in ours):
            return
        time.sleep(0.1)
    raise AssertionError("something goes on by itself")
