"""Where compiled kernels are kept: a folder that belongs to exactly this source.

A kernel that was compiled with another one inside stays as it was when only that other one's file
changes: the compiler looks at the outer file alone. A folder named after all of them cannot be
stale.
"""

from __future__ import annotations

import os
import shutil
from hashlib import blake2b
from pathlib import Path

PACKAGE = Path(__file__).parent
FOLDERS = PACKAGE / "__pycache__"
PREFIX = "kernels-"


def source_digest(only_kernels: bool = False) -> str:
    """A digest of what computes sound: of all its modules, or of those that hold kernels."""
    digest = blake2b(digest_size=8)
    for part in ("core", "formats"):
        for path in sorted((PACKAGE / part).rglob("*.py")):
            source = path.read_bytes()
            if not only_kernels or b"numba" in source:
                digest.update(path.relative_to(PACKAGE).as_posix().encode() + b"\0" + source)
    return digest.hexdigest()


def keep_kernels_apart() -> None:
    """Tell the compiler the folder; to be called before it is first imported."""
    os.environ.setdefault(
        "NUMBA_CACHE_DIR", str(FOLDERS / f"{PREFIX}{source_digest(only_kernels=True)}")
    )


def forget_other_kernels() -> None:
    """Delete what earlier sources have left."""
    for folder in FOLDERS.glob(f"{PREFIX}*"):
        if str(folder) != os.environ.get("NUMBA_CACHE_DIR"):
            shutil.rmtree(folder, ignore_errors=True)
