"""A server and a database of their own, with reels and those who own them."""

from __future__ import annotations

import http.client
import json
import os
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
sys.path[:0] = [str(ROOT / "tools" / "launch"), str(ROOT / "src")]
RATE, MINUTES = 48000, 10


class Site:
    """A server with reels, and the cookies of those who own them."""

    def __init__(self, folder: Path) -> None:
        from database import Database, free_port

        self.database = Database(tests=True)
        self.database.start()
        self.database.ensure("bathyphon_bench")
        self.port = free_port(8700)
        os.environ |= {
            "DATABASE_URL": self.database.url("bathyphon_bench"),
            "BATHYPHON_DATA": str(folder),
            "BATHYPHON_SECRET_KEY": "bench-0123456789-abcdefghijklmnopqrst",
            "DJANGO_SETTINGS_MODULE": "bathyphon.server.settings.local",
            "PYTHONPATH": str(ROOT / "src"),
        }
        subprocess.run([sys.executable, "-m", "django", "migrate", "-v", "0"], check=True)
        import django

        django.setup()

    def serve(self) -> subprocess.Popen[bytes]:
        """Start the server, and wait until it answers."""
        server = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "bathyphon.server.asgi:application", "--port",
             str(self.port), "--log-level", "warning", "--no-access-log",
             "--http", "bathyphon.server.half_open:HalfOpenProtocol"],
        )  # fmt: skip
        while True:
            try:
                self.get("/sign-in", "")
                return server
            except OSError:
                time.sleep(0.2)

    def editors(self, count: int, folder: Path) -> list[tuple[str, str]]:
        """Reels and cookies: an account and a reel each."""
        import numpy as np
        import soundfile
        from django.contrib.auth.models import User

        from bathyphon.server.media.intake import take
        from bathyphon.server.media.models import Media
        from bathyphon.server.media.tasks import prepare
        from bathyphon.server.reels.journal import create_reel

        path = folder / "noise.flac"
        noise = np.random.default_rng(1).standard_normal((MINUTES * 60 * RATE, 2)) * 0.1
        soundfile.write(path, noise.astype(np.float32), RATE)
        made = []
        for number in range(count):
            user, _ = User.objects.get_or_create(username=f"bench-{os.getpid()}-{number}")
            media = take(user, "noise.flac", [path.read_bytes()], RATE)
            media.info, media.state = prepare(media), Media.READY
            media.save()
            reel = create_reel(user, document_of(str(media.pk), number))
            made.append((str(reel.pk), cookie_of(user)))
        return made

    def get(self, path: str, cookie: str) -> tuple[int, float]:
        """Status, and seconds that were waited."""
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        began = time.monotonic()
        line.request("GET", path, headers={"Cookie": cookie})
        answer = line.getresponse()
        answer.read()
        line.close()
        return answer.status, time.monotonic() - began

    def document(self, path: str, cookie: str) -> Any:
        """What an address answers, read."""
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        line.request("GET", path, headers={"Cookie": cookie})
        return json.loads(line.getresponse().read())

    def post(self, path: str, cookie: str, data: Any) -> None:
        """Send something as a page of ours does."""
        token = "a" * 32
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        line.request("POST", path, json.dumps(data), headers={
            "Cookie": f"{cookie}; csrftoken={token}", "X-CSRFToken": token,
            "Content-Type": "application/json", "Origin": f"http://127.0.0.1:{self.port}",
        })  # fmt: skip
        answer = line.getresponse()
        said = answer.read()
        assert answer.status == 200, said[:500]


def large_document(media: str) -> Any:
    """A reel with as many clips as one may hold."""
    from bathyphon.core.reel.caps import MOST_CLIPS

    document = document_of(media, 0)
    tracks, step = 20, RATE // 2
    document["tracks"] = [
        {"id": f"t{track}", "name": f"Track {track}", "treatments": [], "clips": [
            {"id": f"c{track}-{k}", "media": media, "start": k * step, "length": step, "offset": 0}
            for k in range(MOST_CLIPS // tracks)]}
        for track in range(tracks)
    ]  # fmt: skip
    return document


def document_of(media: str, number: int) -> Any:
    """A reel whose one track bears a reverb."""
    clip = {"id": "c", "media": media, "start": 0, "length": MINUTES * 60 * RATE, "offset": 0}
    # Nobody's sound is anybody else's.
    reverb = {"id": "r", "kind": "reverb", "params": {"decay_s": 1.5 + number / 100}}
    track = {"id": "t", "name": "Music", "clips": [clip], "treatments": [],
             "treatment": {"effects": [reverb]}}  # fmt: skip
    return {
        "format": "bathyphon-reel", "version": 1, "name": f"Reel {number}", "frame_rate": "25/1",
        "sample_rate": RATE, "media": [{"id": media, "path": "noise.flac"}], "tracks": [track],
    }  # fmt: skip


def cookie_of(user: Any) -> str:
    """Sign an account in."""
    from django.contrib.auth import login
    from django.contrib.sessions.backends.db import SessionStore
    from django.http import HttpRequest

    request = HttpRequest()
    request.session = SessionStore()
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    request.session.save()
    return f"sessionid={request.session.session_key}"
