"""A file that has taken over its decoder: what it gets at from there."""

import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest
import soundfile

from bathyphon.formats.confined import room
from bathyphon.formats.confined.room import KERNEL, LIBRARY, PACKAGE, start, why_not
from bathyphon.kernels import kernel_folder

# Python runs it as the decoder would run: it has the file's place, and the decoder's means.
ATTACK = """
import ctypes, errno, json, os, socket, sys, threading
from pathlib import Path

port, secret, kernels = sys.argv[2:5]
done = {}

def tried(name):
    def run(attempt):
        try:
            done[name] = repr(attempt())
        except Exception as error:
            done[name] = f"{type(error).__name__} {getattr(error, 'errno', '')}"
    return run

libc = ctypes.CDLL(None, use_errno=True)
def call(name, *arguments):
    if getattr(libc, name)(*arguments) == 0:
        return "worked"
    raise OSError(ctypes.get_errno(), name)

tried("environment")(lambda: sorted(os.environ))
tried("database")(lambda: socket.create_connection(("127.0.0.1", int(port)), 2))
tried("local socket")(lambda: socket.socketpair())
tried("a secret on the disk")(lambda: Path(secret).read_text())
tried("passwords")(lambda: Path("/etc/passwd").read_text())
tried("our home")(lambda: os.listdir(Path.home()) and os.listdir("/root/.ssh"))
tried("processes")(lambda: [p for p in os.listdir("/proc") if p.isdigit()])
def said_of_me(*names):
    lines = Path("/proc/self/status").read_text().splitlines()
    return [line.split()[1] for line in lines if line.startswith(names)]
tried("capabilities")(lambda: said_of_me("CapEff", "CapBnd"))
tried("new privileges")(lambda: said_of_me("NoNewPrivs"))
tried("filter")(lambda: said_of_me("Seccomp:"))
tried("new namespaces")(lambda: call("unshare", 0x10000000))
tried("other namespaces")(lambda: call("setns", os.open("/proc/1/ns/net", os.O_RDONLY), 0))
tried("mount")(lambda: call("mount", b"none", b"/tmp", b"tmpfs", 0, None))
tried("trace")(lambda: call("ptrace", 16, 1, 0, 0))
tried("link")(lambda: os.symlink("/etc/hostname", "/out/proxy.mp4"))
tried("hard link")(lambda: os.link(sys.argv[0], "/out/strip.jpg"))
tried("change the file")(lambda: open(sys.argv[0], "w"))
tried("change our sources")(lambda: open(Path(sys.modules["bathyphon"].__file__), "a"))
tried("change our packages")(lambda: open(json.__file__, "a"))
tried("change kernels")(lambda: Path(kernels, "x").write_text(""))
tried("write elsewhere")(lambda: Path("/written").write_text(""))
tried("other media")(lambda: sorted(os.listdir("/in")) + sorted(os.listdir("/out")))
tried("fill the memory's disk")(lambda: Path("/tmp/big").write_bytes(bytes(2**28 + 1)))
tried("its folder")(lambda: Path("/out/told").write_text("here"))
print(json.dumps(done))
"""

REFUSALS = ("OSError", "PermissionError", "FileNotFoundError", "RuntimeError")


def attacked(tmp_path, code=ATTACK, *arguments):
    """What a file did that runs as code in the place of the decoder."""
    file = tmp_path / "media" / "film.mp4"
    file.parent.mkdir()
    (file.parent / "other.mp4").write_text("of somebody else")
    file.write_text("import bathyphon\n" + code)
    process = start("cProfile", file, tmp_path / "prepared", arguments)
    said, _ = process.communicate(timeout=60)
    return json.loads(next(line for line in said.splitlines() if line.startswith(b"{")))


@pytest.fixture(scope="module")
def found(tmp_path_factory, request):
    tmp_path = tmp_path_factory.mktemp("room")
    secret = tmp_path / "password"
    secret.write_text("hunter2")
    import socket

    with socket.create_server(("127.0.0.1", 0)) as database:
        port = str(database.getsockname()[1])
        os.environ["BATHYPHON_SECRET_KEY"] = "do not tell"
        try:
            found = attacked(tmp_path, ATTACK, port, str(secret), kernel_folder())
        finally:
            del os.environ["BATHYPHON_SECRET_KEY"]
    return found, tmp_path


def test_it_reaches_nothing(found):
    done, _ = found
    refused = {
        name: done[name]
        for name in done
        if not done[name].startswith(
            ("OSError", "PermissionError", "FileNotFoundError", "RuntimeError")
        )
    }
    assert set(refused) == {
        "environment", "processes", "capabilities", "new privileges", "filter", "other media",
        "its folder",
    }, refused  # fmt: skip


def test_it_is_told_nothing(found):
    done, _ = found
    assert set(eval(done["environment"])) <= {
        "PATH", "LANG", "PWD", "PYTHONPATH", "PYTHONUNBUFFERED", "PYTHONDONTWRITEBYTECODE",
        "NUMBA_CACHE_DIR", "BATHYPHON_KERNELS", "LC_CTYPE",
    }  # fmt: skip
    assert len(eval(done["processes"])) <= 2
    assert eval(done["capabilities"]) == ["0" * 16] * 2
    assert done["new privileges"] == "['1']"
    assert done["filter"] == "['2']"
    assert eval(done["other media"]) == ["film.mp4"]


def test_it_writes_into_its_folder_and_nowhere_else(found):
    done, tmp_path = found
    assert done["its folder"] == "4"
    assert [p.name for p in (tmp_path / "prepared").iterdir()] == ["told"]
    assert (tmp_path / "prepared" / "told").read_text() == "here"


def test_a_good_file_is_prepared_there_as_anywhere(tmp_path):
    from bathyphon.formats.prepare import prepare

    path = tmp_path / "tone.wav"
    time = np.arange(48000) / 48000
    soundfile.write(path, 0.5 * np.sin(2 * np.pi * 440 * time), 48000)
    here = prepare(path, tmp_path / "here", 48000, lambda told: None)
    process = start("bathyphon.formats.prepare", path, tmp_path / "there",
                    ["48000", "tone", "--threads", "512", "--memory", str(2**32)])  # fmt: skip
    said, _ = process.communicate(timeout=120)
    assert process.returncode == 0
    assert json.loads(said.splitlines()[-1]) == here
    for name in {p.name for p in (tmp_path / "here").iterdir()} - {"lock"}:
        assert (tmp_path / "there" / name).read_bytes() == (tmp_path / "here" / name).read_bytes()


def test_it_starts_nothing_else_and_its_memory_has_a_bound(tmp_path):
    """Threads it may have; each of them takes of the memory that it is allowed."""
    done = attacked(
        tmp_path,
        "import json, os, resource, subprocess, threading\n"
        "resource.setrlimit(resource.RLIMIT_DATA, (2**28, 2**28))\n"
        "done, threads, stop = {}, [], threading.Event()\n"
        "for name, attempt in {'fork': os.fork, 'run': lambda: subprocess.run(['true'])}.items():\n"
        "    try:\n"
        "        attempt()\n"
        "    except OSError as error:\n"
        "        done[name] = error.errno\n"
        "try:\n"
        "    while len(threads) < 2000:\n"
        "        threads.append(threading.Thread(target=stop.wait))\n"
        "        threads[-1].start()\n"
        "except (RuntimeError, MemoryError):\n"
        "    pass\n"
        "done['threads'] = len(threads)\n"
        "stop.set()\n"
        "print(json.dumps(done), flush=True)\n",
    )
    assert done["fork"] == done["run"] == 1
    assert 8 < done["threads"] < 100


def _command_lines():
    for entry in Path("/proc").glob("[0-9]*/cmdline"):
        try:
            yield entry.read_bytes()
        except OSError:
            continue


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can start something as somebody else")
def test_it_is_the_same_for_somebody_who_is_not_root(tmp_path):
    """Nobody here can read this checkout unless everybody can: the walls alone are tried."""
    tried = subprocess.run(
        ["setpriv", "--reuid=nobody", "--clear-groups", "bwrap", "--unshare-all", "--unshare-user",
         "--disable-userns", "--ro-bind", "/usr", "/usr", "--symlink", "usr/lib", "/lib",
         "--symlink", "usr/lib64", "/lib64", "--", "/usr/bin/true"],
        capture_output=True, check=False,
    )  # fmt: skip
    assert tried.returncode == 0, tried.stderr


def test_no_decoder_outlives_its_worker(tmp_path):
    path = tmp_path / "waits.py"
    path.write_text("import time\nprint('begun', flush=True)\ntime.sleep(60)\n")
    code = (
        "import sys; from pathlib import Path; from bathyphon.formats.confined.room import start;"
        "p = start('cProfile', Path(sys.argv[1]), Path(sys.argv[2]), []);"
        "print(p.stdout.readline(), flush=True); p.wait()"
    )
    worker = subprocess.Popen(
        [sys.executable, "-c", code, str(path), str(tmp_path / "out")],
        stdout=subprocess.PIPE, env={**os.environ, "PYTHONPATH": str(room.SOURCES)},
    )  # fmt: skip
    assert worker.stdout
    assert b"begun" in worker.stdout.readline()
    worker.send_signal(signal.SIGKILL)
    worker.wait()
    for _ in range(100):
        if not any(b"waits.py" in line for line in _command_lines()):
            return
        time.sleep(0.05)
    raise AssertionError("the decoder goes on")


@pytest.mark.parametrize(
    ("missing", "said"), [("bwrap", PACKAGE), ("libseccomp", LIBRARY), ("namespaces", KERNEL)]
)
def test_without_walls_nothing_is_decoded(monkeypatch, tmp_path, missing, said):
    """Each piece that may be missing, and what is said then."""
    if missing == "bwrap":
        monkeypatch.setattr("shutil.which", lambda name: None)
    if missing == "libseccomp":
        monkeypatch.setitem(sys.modules, "pyseccomp", None)
        room.seccomp_filter.cache_clear()
    if missing == "namespaces":
        refusing = tmp_path / "bwrap"
        refusing.write_text("#!/bin/sh\necho 'No permissions' >&2\nexit 1\n")
        refusing.chmod(0o755)
        monkeypatch.setattr("shutil.which", lambda name: str(refusing))
    why_not.cache_clear()
    try:
        assert why_not() == said
    finally:
        why_not.cache_clear()
        room.seccomp_filter.cache_clear()
