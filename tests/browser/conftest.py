"""A real server, worker and database, driven through a real browser."""

from __future__ import annotations

import hashlib
import json
import os
import re
import shutil
import socket
import subprocess
import sys
import time
import urllib.request
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from http import HTTPStatus
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import HTTPError

import numpy as np
import pytest
import soundfile
from media import RATE, film, song, speech
from playwright.sync_api import Browser, BrowserContext, Locator, Page, Route, sync_playwright
from playwright.sync_api import TimeoutError as TooLate
from withheld import listen

from bathyphon import cli

ROOT = Path(__file__).parents[2]
CHROMIUM = [
    "--no-sandbox",
    "--autoplay-policy=no-user-gesture-required",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
]
MOST_CONFLICTS = 5
SIZE = {"width": 1280, "height": 800}
TAP = (Path(__file__).parent / "tap.js").read_text()
ASKED = (Path(__file__).parent / "asked.js").read_text()
# What is under way for a reel that has been left is none of this one's.
SAVED = """() => !window.__asked.some(({ pathname }) =>
    !pathname.startsWith('/api/reels/') || pathname.includes(location.pathname))
  && [...document.querySelectorAll('.pill')].some(p => p.textContent === 'All saved')"""


def pytest_runtest_protocol(item: pytest.Item, nextitem: pytest.Item | None) -> bool | None:
    """A test is judged by what happens while the machine is there for it."""
    in_time = any(map(item.get_closest_marker, ("alone", "in_time")))
    hook = item.ihook
    hook.pytest_runtest_logstart(nodeid=item.nodeid, location=item.location)
    for report in listen(item, nextitem, excused=in_time):
        hook.pytest_runtest_logreport(report=report)
    hook.pytest_runtest_logfinish(nodeid=item.nodeid, location=item.location)
    return True


@dataclass
class Server:
    """The running application."""

    port: int
    env: dict[str, str]
    process: subprocess.Popen[bytes] | None = None

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "bathyphon.server.asgi:application",
             "--port", str(self.port), "--log-level", "warning", "--no-access-log",
             "--http", "bathyphon.server.half_open:HalfOpenProtocol", "--no-proxy-headers",
             "--ws-per-message-deflate", "false"],
            env=self.env,
            cwd=ROOT,
        )  # fmt: skip
        for _ in range(300):
            try:
                with urllib.request.urlopen(self.url, timeout=1):
                    return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        assert self.process
        self.process.kill()
        self.process.wait()

    def django(self, *arguments: str) -> str:
        done = subprocess.run(
            [sys.executable, "-m", "django", *arguments],
            env=self.env, cwd=ROOT, capture_output=True, text=True, check=False,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr
        return done.stdout.strip()


class Api:
    """The API, without a browser, for preparing and looking up."""

    def __init__(self, server: Server, link: str) -> None:
        self.server = server
        self._jar = CookieJar()
        self._opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self._jar))
        page, _, token = link.partition("#link=")
        self._opener.open(server.url + page).read()
        self.post("/api/session/link", {"token": token})
        self.get("/api/account")

    def bytes(self, path: str) -> bytes:
        return bytes(self._opener.open(self.server.url + path).read())

    def get(self, path: str) -> Any:
        return json.loads(self.bytes(path))

    def cookies(self) -> list[Any]:
        """Its session, for a browser."""
        return [{"name": c.name, "value": c.value, "url": self.server.url} for c in self._jar]

    def post(self, path: str, data: Any, kind: str = "application/json") -> Any:
        token = next(c.value for c in self._jar if c.name == "csrftoken")
        body = data if isinstance(data, bytes) else json.dumps(data).encode()
        request = urllib.request.Request(
            self.server.url + path, body, {"Content-Type": kind, "X-CSRFToken": token}
        )
        try:
            return json.loads(self._opener.open(request).read())
        except HTTPError as error:
            error.add_note(error.read().decode())
            raise

    def delete(self, path: str) -> None:
        token = next(c.value for c in self._jar if c.name == "csrftoken")
        request = urllib.request.Request(
            self.server.url + path, headers={"X-CSRFToken": token}, method="DELETE"
        )
        self._opener.open(request).read()

    def edit(self, reel: str, **command: Any) -> Any:
        return self.edits(reel, [command])

    def edits(self, reel: str, commands: list[dict[str, Any]]) -> Any:
        """Several commands as one edit; made anew where another one comes in between, such as the
        last of a window that has just been closed."""
        for _ in range(MOST_CONFLICTS):
            base = self.get(f"/api/reels/{reel}")["revision"]
            data = {"edit_id": str(uuid.uuid4()), "base": base, "commands": commands}
            try:
                return self.post(f"/api/reels/{reel}/edits", data)
            except HTTPError as error:
                if error.code != HTTPStatus.CONFLICT:
                    raise
        raise AssertionError("another window never rests")

    def upload(self, path: Path, wait_seconds: float = 60) -> Any:
        return self.ready(self.send(path), wait_seconds)

    def send(self, path: Path) -> str:
        """Upload a file; the id of what is being prepared then."""
        edge = uuid.uuid4().hex
        body = (
            f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{path.name}"\r\n'
            "Content-Type: application/octet-stream\r\n\r\n"
        ).encode()
        body += path.read_bytes() + f"\r\n--{edge}--\r\n".encode()
        made = self.post("/api/media", body, f"multipart/form-data; boundary={edge}")
        return str(made["id"])

    def ready(self, id: str, wait_seconds: float = 60) -> Any:
        """What is known of a medium once it has been prepared."""
        for _ in range(round(wait_seconds / 0.1)):
            line = self.get(f"/api/media/{id}")
            if line["state"] in ("ready", "failed"):
                return line
            time.sleep(0.1)
        raise RuntimeError("the medium is never ready")


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    env = dict(os.environ)
    # Workers that run side by side have an application each.
    worker = env.get("PYTEST_XDIST_WORKER", "")
    env["DATABASE_URL"] = env["BATHYPHON_BROWSER_DATABASE_URL"] + (worker and f"_{worker}")
    env["DJANGO_SETTINGS_MODULE"] = "bathyphon.server.settings.local"
    env["BATHYPHON_SECRET_KEY"] = "browser-tests-0123456789-abcdefghijklmno"
    # Where all of a run keep their files: what one has prepared the others find prepared.
    env["BATHYPHON_DATA"] = env.get("BATHYPHON_TEST_DATA") or str(tmp_path_factory.mktemp("data"))
    env["PYTHONPATH"] = str(ROOT / "src")
    running = Server(free_port(), env)
    running.django("migrate", "--noinput")
    running.start()
    worker = subprocess.Popen(
        [sys.executable, "-m", "django", "procrastinate", "worker", "--concurrency", "2"],
        env=env,
        cwd=ROOT,
        stderr=subprocess.DEVNULL,
    )
    yield running
    worker.terminate()
    running.kill()
    try:
        worker.wait(timeout=10)
    except subprocess.TimeoutExpired:
        worker.kill()


@pytest.fixture(scope="session")
def files() -> dict[str, Path]:
    """A film that carries its frame numbers, a song and a spoken line."""
    # The same for all workers and stages, for as long as the module that makes them is the same.
    made_by = hashlib.sha256((Path(__file__).parent / "media.py").read_bytes()).hexdigest()[:12]
    kept = ROOT / ".local" / "test-files" / made_by
    if not kept.exists():
        folder = kept.with_name(f"{made_by}-{os.getpid()}")
        folder.mkdir(parents=True)
        film(folder / "numbers.mp4", 66 * 25)
        soundfile.write(folder / "song.wav", song(66).T, RATE, subtype="FLOAT")
        soundfile.write(folder / "line.wav", speech(2.5).T, RATE, subtype="FLOAT")
        try:
            folder.rename(kept)
        except OSError:
            # Another worker was sooner.
            shutil.rmtree(folder)
    return {path.name: path for path in kept.iterdir()}


@dataclass
class Made:
    """A reel in the database: its id, its account's API and its media's files by id."""

    id: str
    api: Api
    files: dict[str, Path]

    @property
    def document(self) -> Any:
        return self.api.get(f"/api/reels/{self.id}")["document"]

    @property
    def revision(self) -> int:
        return int(self.api.get(f"/api/reels/{self.id}")["revision"])

    def edit(self, **command: Any) -> None:
        """Edit as another window would."""
        self.api.edit(self.id, **command)

    def render(self, folder: Path, *options: str) -> np.ndarray:
        """What ``bathyphon render`` makes of the reel as it is now, shape (2, n)."""
        document = self.document
        for medium in document["media"]:
            medium["path"] = str(self.files[medium["id"]])
        (folder / "reel.json").write_text(json.dumps(document))
        # The command itself, without starting another Python each time.
        words = ["render", str(folder / "reel.json"), str(folder / "out.wav"), "--bits", "32f"]
        with pytest.MonkeyPatch.context() as patch:
            patch.setenv("BATHYPHON_CACHE", str(folder.parent / "cache"))
            assert cli.main([*words, *options]) == 0
        return soundfile.read(folder / "out.wav", dtype="float32", always_2d=True)[0].T


@pytest.fixture
def link(server: Server) -> Callable[[str], str]:
    """A new sign-in link of a new account that leads to a path."""
    name = f"editor-{uuid.uuid4().hex[:8]}"

    def make(to: str = "/") -> str:
        return server.django("sign_in_link", name, "--make", "--to", to)

    return make


@dataclass
class Owner:
    """An account whose media are prepared once for all tests."""

    api: Api
    lines: dict[str, Any]


@pytest.fixture(scope="session")
def owner(server: Server, files: dict[str, Path]) -> Owner:
    api = Api(server, server.django("sign_in_link", "owner", "--make"))
    sent = {name: api.send(path) for name, path in files.items()}
    lines = {name: api.ready(id) for name, id in sent.items()}
    assert all(line["state"] == "ready" for line in lines.values()), lines
    return Owner(api, lines)


@pytest.fixture
def made(owner: Owner, files: dict[str, Path]) -> Made:
    """A reel with a numbered picture, music and a voice; cuts at frames 100, 250 and 400."""
    api, lines = owner.api, owner.lines
    reel = api.post("/api/reels", {"name": "Numbers"})["id"]
    picture = {"media": lines["numbers.mp4"]["id"], "start": 0, "length": 66 * RATE}
    commands: list[dict[str, Any]] = [
        *({"kind": "add_medium", "medium": {"id": line["id"], "path": line["name"]}}
          for line in lines.values()),
        {"kind": "set_picture", "clips": [picture]},
        *({"kind": "add_cut", "frame": cut} for cut in (100, 250, 400)),
    ]  # fmt: skip
    for name, media, start, length in (
        ("Voice", "line.wav", 5 * RATE, round(2.5 * RATE)),
        ("Music", "song.wav", 0, 66 * RATE),
    ):
        track = name.lower()
        clip = {"id": f"c-{track}", "media": lines[media]["id"], "name": media, "start": start}
        commands += [
            {"kind": "add_track", "track": {"id": track, "name": name}},
            {"kind": "add_clip", "track": track, "clip": {**clip, "length": length}},
        ]
    api.edits(reel, commands)
    return Made(reel, api, {lines[name]["id"]: path for name, path in files.items()})


def settled(page: Page) -> None:
    """Wait until nothing is asked of the server and all is saved, twice over: an answer may be
    what the next question waits for, as a typed effect is read before it is added."""
    for _ in range(2):
        page.wait_for_function(SAVED)
        page.evaluate("new Promise(done => requestAnimationFrame(() => setTimeout(done)))")
    page.wait_for_function(SAVED)


# Nothing is on its way in or out: for some frames, however long each of them takes.
STILL = """() => new Promise((done) => {
  let calm = 0;
  let since = performance.now();
  const look = () => {
    const moving = document.getAnimations().some((animation) =>
      animation.playState === 'running' &&
      animation.effect?.getComputedTiming().endTime !== Infinity);
    calm = moving ? 0 : calm + 1;
    if (moving) since = performance.now();
    if (calm > 5 && performance.now() - since > 150) done();
    else requestAnimationFrame(look);
  };
  look();
})"""


def still(page: Page) -> None:
    """Wait until nothing fades or slides any more."""
    page.evaluate(STILL)


def enter(page: Page, address: str) -> None:
    """Come by a link that signs in."""
    page.goto(address)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(lambda url: "/sign-in" not in url)


def pressed(page: Page, key: str) -> None:
    """Press a key; where it opens a list one types in, wait until that has the focus."""
    page.keyboard.press(key)
    if key in ("/", "Control+k"):
        page.wait_for_function("document.activeElement?.matches('input')")


def open_card(page: Page, name: str) -> None:
    """Open an effect's card, if it is not: the first of a chain opens by itself."""
    button = page.get_by_role("region", name=name, exact=True).get_by_role("button").nth(1)
    if button.get_attribute("aria-expanded") == "false":
        button.click()


def at_rest(locator: Locator) -> dict[str, float]:
    """Where something lies on the screen, once it moves no more."""
    before = None
    for _ in range(100):
        box = locator.bounding_box()
        if box is not None and box == before:
            return dict(box)
        before = box
        locator.page.wait_for_timeout(150)
    raise AssertionError("it never comes to rest")


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        program = shutil.which("chromium-headless-shell") or shutil.which("chromium")
        chromium = playwright.chromium.launch(executable_path=program, args=CHROMIUM)
        yield chromium
        chromium.close()


@pytest.fixture(scope="session")
def kept_context(browser: Browser) -> Iterator[BrowserContext]:
    """One for all tests, as a person has one: what a page has loaded is not loaded again."""
    made = browser.new_context(viewport=SIZE, bypass_csp=True, accept_downloads=True)
    made.add_init_script(TAP)
    made.add_init_script(ASKED)
    yield made
    made.close()


@pytest.fixture
def context(kept_context: BrowserContext, server: Server) -> Iterator[BrowserContext]:
    """Nobody is signed in, and nothing is remembered of another test."""
    yield kept_context
    kept = kept_context.new_page()
    session = kept_context.new_cdp_session(kept)
    what = {"origin": server.url, "storageTypes": "cookies,local_storage,indexeddb"}
    session.send("Storage.clearDataForOrigin", what)
    for page in kept_context.pages:
        page.close()
    kept_context.clear_cookies()


@pytest.fixture
def page(context: BrowserContext) -> Iterator[Page]:
    opened = context.new_page()
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(str(error)))
    yield opened
    assert not faults


class Held:
    """Requests of a page that are kept back until they are let go."""

    def __init__(self, page: Page, pattern: str) -> None:
        self._page = page
        self._held: list[Route] = []
        self._pattern = pattern
        page.route(pattern, lambda route: self._held.append(route))
        # A page takes up a route a moment after it has been set.
        page.wait_for_timeout(200)

    def let_go(self) -> None:
        """Let the first one go, which may still be on its way."""
        for _ in range(100):
            if self._held:
                self._held.pop(0).continue_()
                return
            self._page.wait_for_timeout(50)
        raise AssertionError("no such request was made")

    def let_all_go(self) -> None:
        """Keep nothing back any more."""
        while self._held:
            self._held.pop(0).continue_()
        self._page.unroute(self._pattern)


class Bench:
    """The workbench as a person uses it."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def lane(self, track: str) -> dict[str, float]:
        box = self.page.locator(f"[data-track={track}]").bounding_box()
        assert box
        return dict(box)

    def x_of_frame(self, frame: float) -> float:
        """Where a frame is on the screen, by the window that the whole-reel strip shows."""
        start, scale = self.page.evaluate("window.__view")
        return self.lane("music")["x"] + (frame * 1920 - start) / scale

    def drag(self, x0: float, y0: float, x1: float, y1: float | None = None) -> None:
        mouse = self.page.mouse
        mouse.move(x0, y0)
        mouse.down()
        mouse.move((x0 + x1) / 2, y0, steps=6)
        mouse.move(x1, y0 if y1 is None else y1, steps=6)
        mouse.up()

    def saved(self) -> None:
        settled(self.page)

    def shows(self, made: Made) -> None:
        """Wait until what another window has done is shown, and laid out where the view is."""
        there = "(revision) => Number(document.body.dataset.revision) >= revision"
        self.page.wait_for_function(there, arg=made.revision)
        self.laid_out()

    def laid_out(self) -> None:
        """Wait until nothing is merely shifted or stretched to where the view has gone."""
        # What lies over it has a stretch of its own.
        laid = "document.querySelectorAll('.lane[data-track] > .following:first-child')"
        lying = f"![...{laid}].some((box) => box.style.transform)"
        for _ in range(2):
            self.page.wait_for_function(lying)
            still(self.page)

    def start_listening(self) -> None:
        """Play for a moment, so that the tap sits in the audio graph."""
        self.play()
        self.page.wait_for_function("window.__tap.parts.length > 0")
        self.pause()

    def play(self) -> None:
        self.page.get_by_role("button", name="▶ Play").click()

    def pause(self) -> None:
        self.page.get_by_role("button", name="Pause").click()

    def go_to(self, frame: int) -> None:
        """Move the playhead by pressing on the ruler, then by single frames."""
        page = self.page
        box = page.locator(".ruler-lane").bounding_box()
        assert box
        page.mouse.click(self.x_of_frame(frame), box["y"] + box["height"] - 3)
        for _ in range(400):
            here = self.frame()
            if here == frame:
                return
            page.keyboard.press("ArrowRight" if here < frame else "ArrowLeft")
        raise AssertionError("the playhead does not get there")

    def type_frame(self, frame: int) -> None:
        """Type where the playhead shall be."""
        field = self.page.get_by_placeholder("Go to +12f")
        field.fill(str(frame))
        field.press("Enter")
        assert self.frame() == frame

    def played(self, frame: int, seconds: float = 1.5) -> tuple[np.ndarray, np.ndarray]:
        """Play from a frame until so much was heard, as by :meth:`heard`."""
        self.start_listening()
        self.type_frame(frame)
        return self.listened(seconds)

    def listened(self, seconds: float) -> tuple[np.ndarray, np.ndarray]:
        """Play from where the playhead is until so much of a render was heard, however long that
        takes on a machine that does other things, too."""
        self.heard()
        self.play()
        enough = "(least) => window.__tap.heard >= least"
        try:
            self.page.wait_for_function(enough, arg=seconds * RATE, timeout=90_000, polling=100)
        except TooLate as error:
            raise AssertionError(self.told()) from error
        self.pause()
        return self.heard()

    def told(self) -> str:
        """What there was to hear, for whoever has waited in vain."""
        try:
            said = "() => window.__tap.told()"
            return str(self.page.wait_for_function(said, timeout=5000, polling=100).json_value())
        except TooLate:
            return "the page's own thread stands still"

    def frame(self) -> int:
        text = self.page.locator(".playhead-head").inner_text()
        hours, minutes, seconds, frames = map(int, re.split("[:;]", text))
        return ((hours * 60 + minutes) * 60 + seconds) * 25 + frames

    def heard(self) -> tuple[np.ndarray, np.ndarray]:
        """What has come out of the audio graph and is said to be that of a render: samples of the
        reel, and their sound (2, n)."""
        places, sound = self.heard_at_all()
        return places[places >= 0], sound[:, places >= 0]

    def heard_at_all(self) -> tuple[np.ndarray, np.ndarray]:
        """All that has come out of the audio graph; −1 where it is no sample of a render: silence,
        on its way in or out, or worked out in a hurry."""
        import base64

        data = base64.b64decode(self.page.evaluate("window.__tap.take()"))
        rows = np.frombuffer(data, np.float32).reshape(-1, 4)
        places = np.where(rows[:, 0] >= 0, rows[:, 0] * RATE + rows[:, 1], -1)
        return places.astype(np.int64), rows[:, 2:].T.copy()


@pytest.fixture
def bench(page: Page, server: Server, made: Made) -> Bench:
    page.context.add_cookies(made.api.cookies())
    page.goto(f"{server.url}/reels/{made.id}")
    page.wait_for_selector(".track")
    page.wait_for_function("document.querySelector('.picture video')?.readyState >= 2")
    return Bench(page)
