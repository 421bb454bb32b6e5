"""Many editors at once, each playing a reel of ten minutes with a reverb on its track.

Run as ``PYTHONPATH=src .venv/bin/python bench/editors.py [SECONDS]``; it starts a server and a
database by itself. Everybody begins somewhere, goes somewhere else now and then, and wants one
second of sound a second. Beside them windows hold streams of events and slow downloads. Prints how
long a second is waited for, and how long anything else is.
"""

from __future__ import annotations

import http.client
import os
import random
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
sys.path[:0] = [str(ROOT / "tools" / "launch"), str(ROOT / "src")]
RATE, MINUTES = 48000, 10
JUMP_SECONDS = 10
STREAMS, DOWNLOADS = 200, 20


def percentile(values: list[float], share: float) -> float:
    """The value that a share of all does not pass."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


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
            reel = create_reel(user, _document(str(media.pk), number))
            made.append((str(reel.pk), _cookie(user)))
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


def _document(media: str, number: int) -> Any:
    clip = {"id": "c", "media": media, "start": 0, "length": MINUTES * 60 * RATE, "offset": 0}
    # Nobody's sound is anybody else's.
    reverb = {"id": "r", "kind": "reverb", "params": {"decay_s": 1.5 + number / 100}}
    track = {"id": "t", "name": "Music", "clips": [clip], "treatments": [],
             "treatment": {"effects": [reverb]}}  # fmt: skip
    return {
        "format": "bathyphon-reel", "version": 1, "name": f"Reel {number}", "frame_rate": "25/1",
        "sample_rate": RATE, "media": [{"id": media, "path": "noise.flac"}], "tracks": [track],
    }  # fmt: skip


def _cookie(user: Any) -> str:
    from django.contrib.auth import login
    from django.contrib.sessions.backends.db import SessionStore
    from django.http import HttpRequest

    request = HttpRequest()
    request.session = SessionStore()
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    request.session.save()
    return f"sessionid={request.session.session_key}"


def play(site: Site, reel: str, cookie: str, until: float, waits: list[float], said: Counter[int],
         seed: int) -> None:  # fmt: skip
    """One second of sound after the other, as a player asks for them."""
    rng = random.Random(seed)
    line = http.client.HTTPConnection("127.0.0.1", site.port, timeout=60)
    generation, next_at = 0, time.monotonic() + rng.random()
    at = rng.randrange(MINUTES * 60 - 60)
    while next_at < until:
        time.sleep(max(0.0, next_at - time.monotonic()))
        if generation % JUMP_SECONDS == JUMP_SECONDS - 1:
            at = rng.randrange(MINUTES * 60 - 60)
        began = time.monotonic()
        path = f"/api/reels/{reel}/sound/treated/{at}?player={until}-{seed}&generation={generation}"
        line.request("GET", path, headers={"Cookie": cookie})
        answer = line.getresponse()
        answer.read()
        said[answer.status] += 1
        waits.append(time.monotonic() - began)
        at, generation, next_at = at + 1, generation + 1, max(next_at + 1, began)


def everybody(site: Site, editors: list[tuple[str, str]], seconds: float) -> None:
    """Let all of them play for a while, and say how it went."""
    waits: list[float] = []
    others: list[float] = []
    said: Counter[int] = Counter()
    until = time.monotonic() + seconds
    players = [
        threading.Thread(target=play, args=(site, *editor, until, waits, said, seed))
        for seed, editor in enumerate(editors)
    ]
    for player in players:
        player.start()
    while time.monotonic() < until:
        others.append(site.get("/api/account", editors[0][1])[1])
        time.sleep(0.1)
    for player in players:
        player.join()
    print(f"{len(editors)} editors: {len(waits) / seconds:.1f} seconds of sound a second, "
          f"median {percentile(waits, 0.5):.2f} s, p95 {percentile(waits, 0.95):.2f} s, longest "
          f"{max(waits):.2f} s, answers {dict(said)}; other requests p95 "
          f"{1000 * percentile(others, 0.95):.0f} ms, longest {1000 * max(others):.0f} ms",
          flush=True)  # fmt: skip


def windows(site: Site, editors: list[tuple[str, str]]) -> None:
    """Streams and slow downloads beside all else."""
    lines = []
    media = f"/api/reels/{editors[0][0]}/archive.zip"
    for number in range(STREAMS + DOWNLOADS):
        line = http.client.HTTPConnection("127.0.0.1", site.port, timeout=60)
        path = "/api/events" if number < STREAMS else media
        line.request("GET", path, headers={"Cookie": editors[number % len(editors)][1]})
        if number >= STREAMS:
            line.sock.setsockopt(6, 1, 1)
        lines.append((line, line.getresponse()))
    times = [site.get("/api/reels", editors[k % len(editors)][1])[1] for k in range(100)]
    print(f"{STREAMS} streams and {DOWNLOADS} slow downloads: other requests p95 "
          f"{1000 * percentile(times, 0.95):.0f} ms, longest {1000 * max(times):.0f} ms",
          flush=True)  # fmt: skip
    for line, _ in lines:
        line.close()


def memory(server: subprocess.Popen[bytes]) -> str:
    """What the server holds."""
    status = Path(f"/proc/{server.pid}/status").read_text()
    return next(line.split(":")[1].strip() for line in status.splitlines() if "VmRSS" in line)


def main() -> None:
    """Measure and print."""
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 30.0
    with tempfile.TemporaryDirectory() as name:
        site = Site(Path(name) / "data")
        editors = site.editors(40, Path(name))
        server = site.serve()
        try:
            site.get(f"/api/reels/{editors[0][0]}/sound/treated/0", editors[0][1])
            windows(site, editors)
            for count in (1, 4, 5, 20, 40):
                everybody(site, editors[:count], seconds)
            print(f"the server holds {memory(server)}")
        finally:
            server.kill()
            server.wait()
            site.database.stop()


if __name__ == "__main__":
    main()
