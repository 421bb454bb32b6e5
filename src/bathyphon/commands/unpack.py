"""``bathyphon unpack``: the reel and the media of an archive, verified."""

from __future__ import annotations

import copy
import shutil
import tempfile
from argparse import Namespace
from pathlib import Path

from bathyphon.commands import Result
from bathyphon.core.errors import Refused
from bathyphon.formats.archive import MEDIA, REEL, Archive, Held
from bathyphon.formats.names import plain_name
from bathyphon.formats.reel_file import save_document

LONGEST_STEM, LONGEST_ENDING = 200, 20
"""Bytes of a file's name, of which file systems keep 255."""


def run(options: Namespace) -> Result:
    """``unpack ARCHIVE FOLDER``."""
    path, folder = Path(options.archive), Path(options.folder)
    if not path.is_file():
        raise Refused(f"there is no file “{path}”")
    if folder.exists() and (not folder.is_dir() or any(folder.iterdir())):
        raise Refused(f"“{folder}” is there already and holds something; give a new folder")
    folder.parent.mkdir(parents=True, exist_ok=True)
    with Archive(path) as archive, tempfile.TemporaryDirectory(dir=folder.parent) as made:
        # All of it or nothing: the folder appears when everything in it has been verified.
        whole = Path(made) / "reel"
        (whole / MEDIA).mkdir(parents=True)
        names = _names(archive.media)
        for medium in archive.media:
            with (whole / names[medium.id]).open("wb") as file:
                file.writelines(archive.bytes_of(medium))
        document = copy.deepcopy(archive.document)
        for medium in document.get("media", []):
            medium["path"] = names.get(medium["id"], medium["path"])
        save_document(whole / REEL, document)
        if folder.exists():
            folder.rmdir()
        shutil.move(whole, folder)
    return {
        "out": str(folder / REEL),
        "media": len(archive.media),
        "lines": [f"{folder / REEL}: the reel; {len(archive.media)} media, all verified"],
    }


def _short(text: str, most: int) -> str:
    """As much of a text as has no more than so many bytes."""
    return text.encode()[:most].decode(errors="ignore")


def _names(media: tuple[Held, ...]) -> dict[str, str]:
    """A place for each medium under its own name, no two alike."""
    taken: set[str] = set()
    names: dict[str, str] = {}
    for medium in media:
        plain = Path(plain_name(medium.name))
        stem, ending = _short(plain.stem, LONGEST_STEM), _short(plain.suffix, LONGEST_ENDING)
        name, count = f"{stem}{ending}", 1
        # Some systems tell large letters from small ones, some do not.
        while name.lower() in taken:
            count += 1
            name = f"{stem} {count}{ending}"
        taken.add(name.lower())
        names[medium.id] = f"{MEDIA}/{name}"
    return names
