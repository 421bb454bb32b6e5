"""Server and database killed outright at seeded moments: no acknowledged edit is lost."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import random
import re
import signal
import subprocess
import sys
import threading
import time
import uuid
from pathlib import Path

import pytest

pytestmark = pytest.mark.by_the_clock

ROOT = Path(__file__).parents[2]
sys.path.insert(0, str(ROOT / "tools" / "launch"))

import database  # noqa: E402
from steps import Trouble  # noqa: E402


class Running:
    """A database and a server of the test's own."""

    def __init__(self, folder: Path) -> None:
        self.port = database.free_port(8700)
        self.database = database.Database()
        self.env = {
            **os.environ,
            "PYTHONPATH": str(ROOT / "src"),
            "DJANGO_SETTINGS_MODULE": "bathyphon.server.settings.local",
            "BATHYPHON_SECRET_KEY": "kill-tests-0123456789-abcdefghijklmnopq",
            "BATHYPHON_DATA": str(folder / "files"),
        }

    def start(self) -> None:
        for _ in range(40):
            # What is left of a killed database still holds its memory for a moment.
            with contextlib.suppress(Trouble):
                self.database.start()
                break
            time.sleep(0.25)
        self.env["DATABASE_URL"] = self.database.url("bathyphon")

    def serve(self) -> None:
        self.server = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "bathyphon.server.asgi:application",
             "--port", str(self.port), "--log-level", "critical", "--no-access-log"],
            env=self.env, cwd=ROOT, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        for _ in range(600):
            with contextlib.suppress(OSError, http.client.HTTPException):
                self.request("GET", "/api/account", {})
                return
            time.sleep(0.05)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        postmaster = int((database.DATA / "postmaster.pid").read_text().splitlines()[0])
        self.server.kill()
        for child in subprocess.run(
            ["ps", "-o", "pid=", "--ppid", str(postmaster)], capture_output=True, text=True,
            check=False,
        ).stdout.split():  # fmt: skip
            with contextlib.suppress(ProcessLookupError):
                os.kill(int(child), signal.SIGKILL)
        with contextlib.suppress(ProcessLookupError):
            os.kill(postmaster, signal.SIGKILL)
        self.server.wait()
        (database.DATA / "postmaster.pid").unlink(missing_ok=True)

    def django(self, *arguments: str) -> str:
        return subprocess.run(
            [sys.executable, "-m", "django", *arguments],
            env=self.env, cwd=ROOT, check=True, capture_output=True, text=True,
        ).stdout.strip()  # fmt: skip

    def request(self, method: str, path: str, headers: dict[str, str], body: object = None):
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
        data = None if body is None else json.dumps(body)
        connection.request(method, path, data, {"Content-Type": "application/json", **headers})
        answer = connection.getresponse()
        return answer.status, answer.getheader("Set-Cookie") or "", answer.read()

    def sign_in(self) -> dict[str, str]:
        page, _, secret = self.django("sign_in_link", "killer", "--make").partition("#link=")
        token = None
        cookie = ""
        for method, path, body in (
            ("GET", page, None), ("POST", "/api/session/link", {"token": secret})
        ):  # fmt: skip
            headers = {"Cookie": cookie, "X-CSRFToken": token[1]} if token else {}
            _, cookies, _ = self.request(method, path, headers, body)
            token = re.search(r"csrftoken=([^;]+)", cookies)
            assert token
            cookie = "; ".join(re.findall(r"(?:sessionid|csrftoken)=[^;]+", cookies))
        return {"Cookie": cookie, "X-CSRFToken": token[1]}


@pytest.fixture
def running(tmp_path_factory, monkeypatch):
    folder = tmp_path_factory.mktemp("killed")
    for parent in folder.parents:
        if parent != Path("/tmp") and parent.is_relative_to("/tmp"):
            parent.chmod(0o755)
    folder.chmod(0o755)
    monkeypatch.setattr(database, "HOME", folder / "postgres")
    monkeypatch.setattr(database, "DATA", folder / "postgres" / "data")
    made = Running(folder)
    made.start()
    made.database.ensure("bathyphon")
    made.django("migrate", "--noinput")
    made.serve()
    yield made
    made.server.kill()
    made.database.stop()


def killed_in_the_middle(running: Running, headers: dict[str, str], reel: str, first: int, wait):
    """Send edits one after another until everything is killed; which were confirmed."""
    timer = threading.Timer(wait, running.kill)
    timer.start()
    confirmed: list[int] = []
    frame = first
    with contextlib.suppress(OSError, http.client.HTTPException, json.JSONDecodeError, KeyError):
        while True:
            _, _, body = running.request("GET", f"/api/reels/{reel}", headers)
            data = {
                "edit_id": str(uuid.uuid4()),
                "base": json.loads(body)["revision"],
                "commands": [{"kind": "add_cut", "frame": frame}],
            }
            status, _, _ = running.request("POST", f"/api/reels/{reel}/edits", headers, data)
            if status == 200:
                confirmed.append(frame)
            frame += 1
    timer.join()
    return confirmed, frame + 1


def survive(running: Running, moments: int) -> None:
    rng = random.Random(20)
    headers = running.sign_in()
    _, _, body = running.request("POST", "/api/reels", headers, {"name": "Killed"})
    reel = json.loads(body)["id"]
    confirmed: set[int] = set()
    frame = 1
    for _ in range(moments):
        found, frame = killed_in_the_middle(running, headers, reel, frame, rng.uniform(0.05, 1.2))
        confirmed.update(found)
        running.start()
        running.serve()
        status, _, body = running.request("GET", f"/api/reels/{reel}", headers)
        assert status == 200
        state = json.loads(body)
        cuts = state["document"]["picture"]["cuts"]
        assert confirmed <= set(cuts)
        assert state["revision"] == len(cuts)
    assert len(confirmed) >= moments


def test_no_acknowledged_edit_is_lost_at_five_moments(running):
    survive(running, 5)


@pytest.mark.long
def test_no_acknowledged_edit_is_lost_at_fifty_moments(running):
    survive(running, 50)
