"""A process in namespaces of its own, made by bubblewrap (``man 1 bwrap``).

It has no network, no other processes, no capabilities and no way to them; of the disk it sees the
system's programs, our own and one file to read, and it writes into one folder. Of the environment
it is told nothing: no passwords, no keys.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from functools import lru_cache
from pathlib import Path

from bathyphon.formats.confined.syscalls import seccomp_filter
from bathyphon.kernels import BORROWED

SOURCES = Path(__file__).resolve().parents[3]
SYSTEM = ("bin", "sbin", "lib", "lib32", "lib64", "usr", "etc/ld.so.cache", "etc/alternatives")
READ, WRITTEN, SPARE = "/in", "/out", "/tmp"
SPARE_BYTES = 2**28
KERNELS = f"{SPARE}/kernels"
NOBODY = "65534"
PACKAGE = "install Debian’s package bubblewrap"
LIBRARY = "install Debian’s package libseccomp2"
KERNEL = (
    "let users make namespaces: sysctl user.max_user_namespaces=10000, and where there are such "
    "settings kernel.unprivileged_userns_clone=1 kernel.apparmor_restrict_unprivileged_userns=0"
)


def start(
    module: str, source: Path, folder: Path, arguments: Sequence[str]
) -> subprocess.Popen[bytes]:
    """Run a module of ours in a room with one file and one folder.

    Parameters
    ----------
    module : str
        Run as ``python -m module FILE FOLDER ARGUMENTS…``, with these two as they are in the room.
    source : Path
        The file that it may read.
    folder : Path
        The folder that it may write into, made if it is not there. Nothing in it can be a link.
    arguments : sequence of str

    Returns
    -------
    subprocess.Popen
        Its standard output is a pipe. With the process that started it, it ends as well.
    """
    folder.mkdir(parents=True, exist_ok=True)
    inside = f"{READ}/{source.name}"
    seen = ["--ro-bind", str(source.resolve()), inside, "--bind", str(folder.resolve()), WRITTEN]
    python = [sys.executable, "-m", module, inside, WRITTEN, *arguments]
    with _filter() as handle:
        return subprocess.Popen(
            [*_room(handle), *_ours(), *seen, "--remount-ro", "/", "--", *python],
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            stdin=subprocess.DEVNULL,
            pass_fds=[handle],
            env={},
        )


@lru_cache(1)
def why_not() -> str | None:
    """What is missing for such a room and how to get it, in half a sentence; None if all is there.

    Asked once: whoever mends it starts the worker anew.
    """
    if shutil.which("bwrap") is None:
        return PACKAGE
    try:
        with _filter() as handle:
            tried = subprocess.run(
                [*_room(handle), "--", "true"],
                pass_fds=[handle],
                env={},
                capture_output=True,
                check=False,
            )
    except (ImportError, OSError, RuntimeError):
        return LIBRARY
    return None if tried.returncode == 0 else KERNEL


def _room(handle: int) -> list[str]:
    """The walls, the same for all that runs between them."""
    walls = ["--unshare-all", "--unshare-user", "--disable-userns", "--uid", NOBODY]
    walls += ["--gid", NOBODY, "--cap-drop", "ALL", "--new-session", "--die-with-parent"]
    walls += ["--hostname", "room", "--seccomp", str(handle), "--clearenv"]
    for name in SYSTEM:
        path = Path("/", name)
        if path.is_symlink():
            walls += ["--symlink", str(path.readlink()), str(path)]
        elif path.exists():
            walls += ["--ro-bind", str(path), str(path)]
    return [
        shutil.which("bwrap") or "bwrap",
        *walls,
        *("--proc", "/proc", "--dev", "/dev", "--remount-ro", "/dev"),
        *("--size", str(SPARE_BYTES), "--tmpfs", SPARE, "--chdir", SPARE),
        *("--setenv", "PATH", "/usr/bin:/bin", "--setenv", "LANG", "C.UTF-8"),
    ]


def _ours() -> list[str]:
    """Python, its packages and our sources, and the kernels that are there already."""
    kernels = os.environ["NUMBA_CACHE_DIR"]
    folders = dict.fromkeys([sys.base_prefix, sys.prefix, str(SOURCES)])
    binds = [part for folder in folders for part in ("--ro-bind", folder, folder)]
    said = {
        "PYTHONPATH": str(SOURCES),
        "PYTHONUNBUFFERED": "1",
        "PYTHONDONTWRITEBYTECODE": "1",
        "NUMBA_CACHE_DIR": KERNELS,
        BORROWED: kernels,
    }
    told = [part for name, value in said.items() for part in ("--setenv", name, value)]
    return [*binds, "--ro-bind-try", kernels, kernels, *told]


@contextmanager
def _filter() -> Iterator[int]:
    """The filter of calls in a handle that another process reads it from."""
    handle = os.memfd_create("filter")
    try:
        os.write(handle, seccomp_filter())
        os.lseek(handle, 0, os.SEEK_SET)
        yield handle
    finally:
        os.close(handle)
