"""Many editors at once, each playing a reel of ten minutes with a reverb on its track.

Run as ``PYTHONPATH=src .venv/bin/python bench/editors.py [SECONDS [EDITORS …]]``; it starts a
server and a database by itself. Everybody comes within ten seconds, begins somewhere, goes
somewhere else now and then, and wants one second of sound a second. Beside them windows hold
streams of events and slow downloads. Prints how long sound is waited for, and how long anything
else is.
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
import uuid
from collections import Counter
from pathlib import Path

from served import MINUTES, Site, large_document

JUMP_SECONDS, COMING_SECONDS = 10, 10
PIECES, AHEAD = 5, 4
"""As the player in the browser has them."""
STREAMS, DOWNLOADS = 200, 20


def percentile(values: list[float], share: float) -> float:
    """The value that a share of all does not pass."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


class Player:
    """An editor's player: it asks as the one in the browser does.

    While the whole second at the playhead is on its way, fifths of it are asked for, each while
    the one before it plays; what does not come in time makes the playhead wait.
    """

    def __init__(self, site: Site, reel: str, cookie: str, seed: int) -> None:
        self.site, self.reel, self.cookie, self.seed = site, reel, cookie, seed
        self.random = random.Random(seed)
        self.held: set[int] = set()
        self.at, self.generation, self.came, self.until = 0, 0, 0.0, 0.0
        self.moved = threading.Event()
        self.began: list[float] = []
        """Seconds from a jump to its first sound."""
        self.waited: list[float] = []
        """Seconds that the playhead stood during each second of sound."""
        self.exact = 0
        self.said: Counter[int] = Counter()

    def start(self, until: float) -> list[threading.Thread]:
        """Play until a moment, in two threads."""
        self.until = until
        threads = [threading.Thread(target=f) for f in (self._play, self._fetch)]
        for thread in threads:
            thread.start()
        return threads

    def _ask(
        self, line: http.client.HTTPConnection, index: int, part: int | None = None, parts: int = 1
    ) -> bool:
        query = f"player={self.until}-{self.seed}&generation={self.generation}"
        query += "" if part is None else f"&part={part}&parts={parts}"
        path = f"/api/reels/{self.reel}/sound/treated/{index}?{query}"
        try:
            line.request("GET", path, headers={"Cookie": self.cookie})
            answer = line.getresponse()
            answer.read()
        except (http.client.RemoteDisconnected, BrokenPipeError):
            # It had nothing to ask for some seconds; the next question connects anew.
            line.close()
            return False
        self.said[answer.status] += 1
        if answer.status != 200:
            time.sleep(0.04)
        return answer.status == 200

    def _fetch(self) -> None:
        line = http.client.HTTPConnection("127.0.0.1", self.site.port, timeout=120)
        while time.monotonic() < self.until:
            here, generation = self.at, self.generation
            wanted = [i for i in range(here, here + 1 + AHEAD) if i not in self.held]
            if not wanted:
                time.sleep(0.05)
            elif self._ask(line, wanted[0]) and generation == self.generation:
                self.held.add(wanted[0])
        line.close()

    def _play(self) -> None:
        line = http.client.HTTPConnection("127.0.0.1", self.site.port, timeout=120)
        time.sleep(COMING_SECONDS * self.random.random())
        self.came = time.monotonic()
        while time.monotonic() < self.until:
            self.held.clear()
            self.at, self.generation = self.random.randrange(MINUTES * 60 - 60), self.generation + 1
            due = asked = time.monotonic()
            most = 1
            for number in range(JUMP_SECONDS * PIECES):
                part = number % PIECES
                if part == 0:
                    self.at, pieces = self.at + bool(number), set[int]()
                    self.waited.append(0.0)
                while part not in pieces and self.at not in self.held:
                    if self._ask(line, self.at, part, most := min(most, PIECES - part)):
                        pieces.update(range(part, part + most))
                self.exact += self.at in self.held
                now = time.monotonic()
                # More of them together, once one has come in time.
                most = PIECES if now - due < 0.1 else 1
                if number == 0:
                    self.began.append(now - asked)
                self.waited[-1] += max(0.0, now - due)
                due = max(due, now)
                if now > self.until:
                    break
                # The next one is asked for while this one plays.
                time.sleep(max(0.0, due - now))
                due += 1 / PIECES
        line.close()


def processor_seconds(server: subprocess.Popen[bytes]) -> float:
    """What the server has used of the processors so far."""
    fields = Path(f"/proc/{server.pid}/stat").read_text().rsplit(")", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


def withheld() -> float:
    """What the host has kept from this machine so far, in seconds of all processors."""
    return int(Path("/proc/stat").read_text().split()[8]) / os.sysconf("SC_CLK_TCK")


def everybody(
    site: Site, server: subprocess.Popen[bytes], editors: list[tuple[str, str]], seconds: float
) -> None:
    """Let all of them play for a while, and say how it went."""
    spent, stolen = processor_seconds(server), withheld()
    others: list[float] = []
    until = time.monotonic() + seconds
    players = [Player(site, *editor, seed) for seed, editor in enumerate(editors)]
    threads = [thread for player in players for thread in player.start(until)]
    while time.monotonic() < until:
        others.append(site.get("/api/account", editors[0][1])[1])
        time.sleep(0.1)
    for thread in threads:
        thread.join()
    began = [wait for player in players for wait in player.began]
    waits = [wait for player in players for wait in player.waited]
    said = sum((player.said for player in players), Counter[int]())
    spent, stolen = processor_seconds(server) - spent, withheld() - stolen
    exact = sum(player.exact for player in players) / (PIECES * len(waits))
    due = sum(max(0.0, until - player.came) for player in players)
    print(f"{len(editors)} editors: {100 * len(waits) / due:.0f} % of all seconds of sound came, "
          f"{100 * exact:.0f} % exact; first sound after a jump: median "
          f"{percentile(began, 0.5):.2f} s, p95 {percentile(began, 0.95):.2f} s; a second of sound "
          f"waits p95 {percentile(waits, 0.95):.2f} s, longest {max(waits):.2f} s; answers "
          f"{dict(said)}; {1000 * spent / len(waits):.0f} ms of a processor each, "
          f"{100 * stolen / seconds / (os.cpu_count() or 1):.0f} % withheld by the host; other "
          f"requests p95 {1000 * percentile(others, 0.95):.0f} ms, longest "
          f"{1000 * max(others):.0f} ms", flush=True)  # fmt: skip


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


def beside_a_large_reel(site: Site, owner: tuple[str, str], other: str, seconds: float) -> None:
    """Somebody edits a reel at its caps again and again; what that costs everybody else."""
    from bathyphon.server.reels.journal import create_reel
    from bathyphon.server.reels.models import Reel

    row = Reel.objects.get(pk=owner[0])
    account = row.memberships.get().account
    media = site.document(f"/api/reels/{owner[0]}", owner[1])["document"]["media"][0]["id"]
    large = str(create_reel(account, large_document(media)).pk)
    alone = [site.get("/api/reels", other)[1] for _ in range(50)]
    edits: list[float] = []
    until = time.monotonic() + seconds

    def edit() -> None:
        base = 0
        while time.monotonic() < until:
            gain = {"kind": "set_clip", "id": f"c3-{base % 900}", "gain_db": -base % 20}
            began = time.monotonic()
            site.post(f"/api/reels/{large}/edits", owner[1],
                  {"edit_id": str(uuid.uuid4()), "base": base, "commands": [gain]})  # fmt: skip
            edits.append(time.monotonic() - began)
            base += 1

    busy = threading.Thread(target=edit)
    busy.start()
    beside = []
    while busy.is_alive():
        beside.append(site.get("/api/reels", other)[1])
        time.sleep(0.02)
    print(f"beside {len(edits)} edits of a reel at its caps (median {percentile(edits, 0.5):.2f} "
          f"s, p95 {percentile(edits, 0.95):.2f} s): other requests p95 "
          f"{1000 * percentile(beside, 0.95):.0f} ms, longest {1000 * max(beside):.0f} ms, alone "
          f"p95 {1000 * percentile(alone, 0.95):.0f} ms", flush=True)  # fmt: skip


def memory(server: subprocess.Popen[bytes]) -> str:
    """What the server holds."""
    status = Path(f"/proc/{server.pid}/status").read_text().splitlines()
    kinds = {name: int(rest.split()[0]) / 2**20 for name, rest in
             (line.split(":") for line in status) if name in ("RssAnon", "RssFile")}  # fmt: skip
    return f"{kinds['RssAnon']:.1f} GB of its own and {kinds['RssFile']:.1f} GB of files"


def main() -> None:
    """Measure and print."""
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 30.0
    counts = [int(count) for count in sys.argv[2:]] or [1, 4, 5, 20, 40]
    with tempfile.TemporaryDirectory() as name:
        site = Site(Path(name) / "data")
        editors = site.editors(40, Path(name))
        server = site.serve()
        try:
            site.get(f"/api/reels/{editors[0][0]}/sound/treated/0", editors[0][1])
            windows(site, editors)
            beside_a_large_reel(site, editors[0], editors[1][1], seconds / 2)
            for count in counts:
                everybody(site, server, editors[:count], seconds)
                print(f"the server holds {memory(server)}", flush=True)
        finally:
            server.kill()
            server.wait()
            site.database.stop()


if __name__ == "__main__":
    main()
