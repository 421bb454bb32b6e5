"""Names each missing piece and the command that brings it."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys

import environment
from debian import needs
from steps import PYTHON, ROOT


def doctor() -> int:
    """Look at everything; exit status 1 if something is missing."""
    rows = [(need.what, need.path or need.instead, need.command) for need in needs(browser=True)]
    version = sys.version.split()[0]
    rows.insert(
        0,
        (
            "Python 3.11 or newer",
            f"{sys.executable} ({version})" if sys.version_info >= (3, 11) else None,
            "apt-get install python3 python3-venv",
        ),
    )
    node = environment.node_version()
    bundled = environment.NODE / "bin" / "node"
    own = shutil.which("node") if node >= environment.OLDEST_NODE else None
    own = own or (str(bundled) if bundled.exists() else None)
    rows.append(("Node.js 20 or newer", own, "./bathyphon demo"))
    built = ROOT / "web" / "dist" / "index.html"
    modules = ROOT / "web" / "node_modules"
    reel = ROOT / "demo" / "ninth_sump" / "reel.json"
    rows += [
        ("Python packages", str(PYTHON) if PYTHON.exists() else None, "./bathyphon demo"),
        ("front-end packages", str(modules) if modules.exists() else None, "./bathyphon demo"),
        ("built front end", str(built) if built.exists() else None, "./bathyphon demo"),
        ("demo reel", str(reel) if reel.exists() else None, ".venv/bin/python demo/make.py"),
    ]
    rows.append(("walls between which files are decoded", *_walls()))
    missing = 0
    for what, path, command in rows:
        missing += path is None
        print(f"{'missing' if path is None else 'found  '}  {what}: {path or command}")
    print("Everything is there." if not missing else f"{missing} missing.")
    return 1 if missing else 0


def _walls() -> tuple[str | None, str]:
    """Whether this machine can keep a decoder from the rest of it, or what has to be done."""
    if not PYTHON.exists():
        return None, "./bathyphon demo"
    ask = "from bathyphon.formats.confined.room import why_not; print(why_not() or '')"
    env = {**os.environ, **environment.python_env()}
    asked = subprocess.run(
        [PYTHON, "-c", ask], env=env, capture_output=True, text=True, check=False
    )
    if asked.returncode:
        return None, "./bathyphon demo"
    return (None, asked.stdout.strip()) if asked.stdout.strip() else ("they hold", "")
