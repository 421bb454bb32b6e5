"""Server and worker as processes that start and stop together."""

from __future__ import annotations

import os
import secrets
import signal
import socket
import subprocess
import time
from collections.abc import Mapping

from database import Database, free_port
from environment import python_env
from keeping import Kept, keep, stop
from steps import LOCAL, PYTHON, ROOT, Trouble, done, fingerprint, is_done, last_said, run, say

DEMO_REEL = ROOT / "demo" / "ninth_sump" / "reel.json"


def demo(options: list[str]) -> int:
    """Run with the demo reel; prints a link that signs in."""
    return _serve("demo", options)


def start(options: list[str]) -> int:
    """Run for real use: accounts, no demo data, settings from the environment."""
    return _serve("start", options)


def worker() -> int:
    """Run one more worker against the database of DATABASE_URL or our own."""
    database = None
    env = dict(os.environ)
    if "DATABASE_URL" not in env:
        database = Database()
        database.start()
        env["DATABASE_URL"] = database.url("bathyphon")
    env = _django_env(env, "start")
    previous = signal.signal(signal.SIGTERM, _interrupt)
    kept = _workers(env)
    try:
        return keep([*kept, database] if database else kept)
    finally:
        signal.signal(signal.SIGTERM, previous)
        stop(kept)
        if database:
            database.stop()


def _serve(mode: str, options: list[str]) -> int:
    began = time.monotonic()
    wanted_port = _option(options, "--port")
    host = os.environ.get("BATHYPHON_BIND", "127.0.0.1") if mode == "start" else "127.0.0.1"
    env = dict(os.environ)
    database, which = None, ""
    if mode == "demo" or "DATABASE_URL" not in env:
        database = Database()
        database.start()
        which = database.ensure(_name(mode))
        env["DATABASE_URL"] = database.url(_name(mode))
    kept: list[Kept] = []
    previous = signal.signal(signal.SIGTERM, _interrupt)
    try:
        env = _django_env(env, mode)
        port = int(wanted_port) if wanted_port else free_port(8400)
        if wanted_port and free_port(port) != port:
            raise Trouble(f"port {port} is in use; choose another, or leave --port out")
        server = Kept("The server", _server_command(host, port), env)
        kept.append(server)
        _migrate(env, mode, which)
        path = _entrance(env, mode)
        kept += _workers(env)
        address = Address(host, port, env)
        _until_answering(address, server)
        print(f"Bathyphon answers on port {port} after {time.monotonic() - began:.1f} s. Open:")
        print(f"  {address.shown}{path}", flush=True)
        print("The link signs in once. Ctrl-C stops.", flush=True)
        return keep([*kept, database] if database else kept)
    except KeyboardInterrupt:
        return 0
    finally:
        signal.signal(signal.SIGTERM, previous)
        stop(kept)
        if database:
            database.stop()


def _name(mode: str) -> str:
    return "bathyphon_demo" if mode == "demo" else "bathyphon"


def _django_env(env: Mapping[str, str], mode: str) -> dict[str, str]:
    full = {**env, **python_env()}
    full.setdefault("DJANGO_SETTINGS_MODULE", "bathyphon.server.settings.local")
    full.setdefault("BATHYPHON_DATA", str(LOCAL / ("demo-data" if mode == "demo" else "data")))
    if "BATHYPHON_SECRET_KEY" not in full:
        full["BATHYPHON_SECRET_KEY"] = _kept_secret()
    return full


def _kept_secret() -> str:
    file = LOCAL / "secret"
    if not file.exists():
        file.write_text(secrets.token_urlsafe(48))
        file.chmod(0o600)
    return file.read_text()


def _migrate(env: Mapping[str, str], mode: str, which: str) -> None:
    server = ROOT / "src" / "bathyphon" / "server"
    migrations = sorted(server.glob("*/migrations"))
    mark = (
        fingerprint([*migrations, ROOT / "requirements.lock"]) + env["DATABASE_URL"].split("@")[0]
    )
    created = LOCAL / "postgres" / "data" / "PG_VERSION"
    mark += f"{which}/{created.stat().st_mtime_ns}" if created.exists() else which
    if mode == "demo" and is_done("migrated-demo", mark):
        return
    say("Bringing the database up to date …")
    run([PYTHON, "-m", "django", "migrate", "--noinput"], "updating the database", env=env)
    if mode == "demo":
        done("migrated-demo", mark)


def _entrance(env: Mapping[str, str], mode: str) -> str:
    if mode == "demo":
        say("Bringing in the demo reel …")
        return _django(env, "seed_demo", str(DEMO_REEL))
    name = os.environ.get("BATHYPHON_ACCOUNT", "owner")
    return _django(env, "sign_in_link", name, "--make")


def _django(env: Mapping[str, str], *arguments: str) -> str:
    result = subprocess.run(
        [PYTHON, "-m", "django", *arguments],
        env=dict(env),
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=False,
    )
    if result.returncode:
        raise Trouble(last_said(result.stderr) or arguments[0])
    return result.stdout.strip().splitlines()[-1]


def _server_command(host: str, port: int) -> list[str]:
    return [
        str(PYTHON),
        "-m",
        "uvicorn",
        "bathyphon.server.asgi:application",
        "--host",
        host,
        "--port",
        str(port),
        "--log-level",
        "warning",
        "--no-access-log",
        "--http",
        "bathyphon.server.half_open:HalfOpenProtocol",
        # Sound hardly becomes smaller, and nothing else is answered while it is tried.
        "--ws-per-message-deflate",
        "false",
        *_proxies(),
        # Windows that are open would keep it from ending.
        "--timeout-graceful-shutdown",
        "2",
    ]


def _proxies() -> list[str]:
    """Whose word is taken for where a request comes from, and how: anybody can write a header."""
    trusted = os.environ.get("BATHYPHON_PROXIES", "").strip()
    return ["--forwarded-allow-ips", trusted] if trusted else ["--no-proxy-headers"]


def _workers(env: Mapping[str, str]) -> list[Kept]:
    """One for what is brought in, one for exports: neither waits for the other."""
    return [
        Kept("The worker", _worker_command("media", 2), env),
        Kept("The export worker", _worker_command("exports", 1), env),
    ]


def _worker_command(queue: str, at_once: int) -> list[str]:
    # Jobs run niced beside the server, so that the sound does not stutter.
    return [
        "nice",
        "-n",
        "10",
        str(PYTHON),
        "-m",
        "django",
        "procrastinate",
        "worker",
        "--queues",
        queue,
        "--concurrency",
        str(at_once),
        "--shutdown-graceful-timeout",
        "5",
    ]


class Address:
    """Where the server is reached, by ourselves and by others.

    Parameters
    ----------
    host : str
        What it listens on.
    port : int
    env : dict
        With the names that it answers to, in ``BATHYPHON_HOSTS``.
    """

    def __init__(self, host: str, port: int, env: Mapping[str, str]) -> None:
        everywhere = {"0.0.0.0": "127.0.0.1", "::": "::1"}
        self._own = everywhere.get(host, host)
        self._port = port
        names = [name.strip() for name in env.get("BATHYPHON_HOSTS", "").split(",")]
        # “.example” and “*” stand for any name.
        name = next((n for n in names if n and n[0] not in ".*"), self._own)
        shown = f"[{name}]" if ":" in name.strip("[]") and name[0] != "[" else name
        origin = env.get("BATHYPHON_ORIGINS", "").split(",")[0].strip()
        self.shown = origin or f"http://{shown}:{port}"

    def answers(self) -> bool:
        """Whether somebody is there: it listens once all of it has been loaded."""
        try:
            with socket.create_connection((self._own, self._port), timeout=2):
                return True
        except OSError:
            return False


def _until_answering(address: Address, server: Kept) -> None:
    for _ in range(600):
        if server.ended is not None:
            raise Trouble("the server has stopped; the lines above say why")
        if address.answers():
            return
        time.sleep(0.1)
    raise Trouble("the server does not answer")


def _interrupt(number: int, frame: object) -> None:
    raise KeyboardInterrupt


def _option(options: list[str], name: str) -> str | None:
    if name in options:
        at = options.index(name)
        if at + 1 < len(options) and options[at + 1].isdigit():
            return options[at + 1]
        raise Trouble(f"{name} wants a number")
    if options:
        raise Trouble(f"{options[0]} is not known here; there is {name} NUMBER")
    return None
