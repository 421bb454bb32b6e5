"""Where compiled kernels are kept: a folder that belongs to exactly these sources.

A kernel holds what it was compiled with, other kernels and the constants of other modules, and
stays as it was when only their files change: the compiler looks at its own file alone. A folder
named after the contents of all that kernels import, near and far, cannot be stale. Reading them all
takes longer than most commands, so what was found is noted beside the folders, and holds for as
long as no file has another size or time.
"""

from __future__ import annotations

import os

PACKAGE = os.path.dirname(os.path.abspath(__file__))
FOLDERS = os.path.join(PACKAGE, "__pycache__")
NOTE = os.path.join(FOLDERS, "kernels.txt")
PREFIX = "kernels-"
PARTS = ("core", "formats")
BORROWED = "BATHYPHON_KERNELS"
"""Names kernels that are read where nothing may be written: see :func:`borrow_kernels`."""


def kernel_folder() -> str:
    """The folder of the kernels of these very sources."""
    return os.path.join(FOLDERS, PREFIX + _noted()[0])


def sound_version() -> str:
    """A digest of all that computes sound: where it differs, so may the sound."""
    return _noted()[1]


def keep_kernels_apart() -> None:
    """Tell the compiler the folder; to be called before it is first imported."""
    if "NUMBA_CACHE_DIR" not in os.environ:
        os.environ["NUMBA_CACHE_DIR"] = kernel_folder()


def borrow_kernels() -> None:
    """Copy the kernels of others: the compiler reads only where it may write as well."""
    from shutil import copytree

    if os.path.isdir(os.environ.get(BORROWED, "")):
        copytree(os.environ[BORROWED], os.environ["NUMBA_CACHE_DIR"], dirs_exist_ok=True)


def forget_other_kernels() -> None:
    """Delete what earlier sources have left."""
    import shutil

    for entry in os.scandir(FOLDERS):
        if entry.name.startswith(PREFIX) and entry.path != os.environ.get("NUMBA_CACHE_DIR"):
            shutil.rmtree(entry.path, ignore_errors=True)


def _noted() -> tuple[str, str]:
    """Digests of the sources with kernels and of all, read anew only if a file has changed."""
    files = sorted(_files())
    state = repr(files)
    try:
        with open(NOTE, encoding="utf-8") as note:
            kernels, everything, known = note.read().split("\n", 2)
        if known == state:
            return kernels, everything
    except (OSError, ValueError):
        pass
    found = _digests([path for path, _, _ in files])
    try:
        os.makedirs(FOLDERS, exist_ok=True)
        # Another process may read it at this moment: it finds the old one or the new one, whole.
        fresh = f"{NOTE}.{os.getpid()}"
        with open(fresh, "w", encoding="utf-8") as note:
            note.write("\n".join([*found, state]))
        os.replace(fresh, NOTE)
    except OSError:
        pass
    return found


def _files() -> list[tuple[str, int, int]]:
    """Sources by their path, with their time and size."""
    found = []
    ahead = list(PARTS)
    while ahead:
        folder = ahead.pop()
        for entry in os.scandir(os.path.join(PACKAGE, folder)):
            path = f"{folder}/{entry.name}"
            if entry.name.endswith(".py"):
                seen = entry.stat()
                found.append((path, seen.st_mtime_ns, seen.st_size))
            elif entry.is_dir() and entry.name != "__pycache__":
                ahead.append(path)
    return found


def _digests(paths: list[str]) -> tuple[str, str]:
    from hashlib import blake2b

    sources = {}
    for path in paths:
        with open(os.path.join(PACKAGE, path), "rb") as file:
            sources[path] = file.read()
    within = _within_kernels(sources)
    kernels, everything = blake2b(digest_size=8), blake2b(digest_size=8)
    for path, source in sources.items():
        part = path.encode() + b"\0" + source
        everything.update(part)
        if path in within:
            kernels.update(part)
    return kernels.hexdigest(), everything.hexdigest()


def _within_kernels(sources: dict[str, bytes]) -> set[str]:
    """Paths of the files that hold kernels, and of all that these import, near and far."""
    ahead = [path for path, source in sources.items() if b"njit" in source]
    within: set[str] = set()
    while ahead:
        path = ahead.pop()
        if path not in within:
            within.add(path)
            ahead += _imported(sources[path], sources)
    return within


def _imported(source: bytes, sources: dict[str, bytes]) -> list[str]:
    """Paths of the files that a source imports from."""
    import ast

    found = []
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("bathyphon."):
            place = str(node.module).removeprefix("bathyphon.").replace(".", "/")
            # From a module something of it, from a folder a module.
            names = [f"{place}/{alias.name}.py" for alias in node.names]
            found += [p for p in (f"{place}.py", f"{place}/__init__.py", *names) if p in sources]
    return found
