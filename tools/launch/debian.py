"""Packages from Debian: the database, and the browser for tests."""

from __future__ import annotations

import os
import shutil
from contextlib import suppress
from ctypes.util import find_library
from dataclasses import dataclass
from pathlib import Path

from steps import Trouble, run, say


@dataclass(frozen=True)
class Need:
    """A program and the packages that bring it."""

    what: str
    packages: tuple[str, ...]
    path: str | None
    instead: str | None = None
    """What does as well where it cannot be had, only slower."""

    @property
    def command(self) -> str:
        """The command that brings it."""
        return f"apt-get install {' '.join(self.packages)}"


def postgres_folder() -> Path | None:
    """Folder of the newest PostgreSQL server's programs."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
    return found[-1].parent if found else None


def needs(browser: bool = False, database: bool = True) -> list[Need]:
    """Everything from Debian that running needs, with where it was found.

    Parameters
    ----------
    browser : bool
        Whether there are browser tests to run.
    database : bool
        Whether PostgreSQL shall run here; not where ``DATABASE_URL`` names another.
    """
    folder = postgres_folder()
    room = shutil.which("bwrap")
    found = [
        Need("bubblewrap, between whose walls files are decoded", ("bubblewrap",), room),
        Need("libseccomp", ("libseccomp2",), find_library("seccomp")),
    ]
    if database:
        server = str(folder) if folder else None
        found.insert(0, Need("PostgreSQL server", ("postgresql",), server))
    if browser:
        # The one without windows takes a quarter less of the machine.
        shell = shutil.which("chromium-headless-shell")
        what = "Chromium, for the browser tests"
        found.append(Need(what, ("chromium-headless-shell",), shell, shutil.which("chromium")))
    return found


def ensure(browser: bool = False, database: bool = True) -> None:
    """Install what is missing, if we may.

    Raises
    ------
    Trouble
        If something is missing that cannot be installed from here.
    """
    missing = [need for need in needs(browser, database) if need.path is None]
    if not missing:
        return
    if all(need.instead for need in missing):
        with suppress(Trouble):
            _install(missing)
        return
    _install(missing)
    still = [n.what for n in needs(browser, database) if n.path is None and n.instead is None]
    if still:
        raise Trouble(f"Debian's packages did not bring {', '.join(still)}")


def may_install() -> bool:
    """Whether what is missing can be installed from here."""
    return os.geteuid() == 0 and shutil.which("apt-get") is not None


def _install(missing: list[Need]) -> None:
    packages = [p for need in missing for p in need.packages]
    if not may_install():
        names = ", ".join(need.what for need in missing)
        raise Trouble(f"missing: {names}. As root run: apt-get install {' '.join(packages)}")
    say(f"Installing {', '.join(packages)} …")
    env = {"DEBIAN_FRONTEND": "noninteractive"}
    run(["apt-get", "update", "-q"], "reading the package lists", env=env)
    run(
        [
            "apt-get",
            "install",
            "-y",
            "--no-install-recommends",
            "-o",
            "DPkg::Lock::Timeout=300",
            *packages,
        ],
        "installing Debian packages",
        env=env,
    )
