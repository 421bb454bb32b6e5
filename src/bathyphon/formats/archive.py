"""A reel with its media as one file: a ZIP that holds every byte that the sound depends on.

Beside ``reel.json`` lies ``archive.json``, which says of each medium what it is called, how long it
is and what its bytes hash to; the bytes lie under their hash in ``media/``, each once. What does
not agree with that, or would go anywhere else, is refused before anything is written.
"""

from __future__ import annotations

import hashlib
import io
import json
import stat
import zipfile
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path, PurePosixPath, PureWindowsPath
from typing import Annotated, Any, BinaryIO, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.reel.parse import read_reel
from bathyphon.core.unread import cannot_read
from bathyphon.formats.names import plain_name
from bathyphon.formats.reel_file import document_of

FORMAT: Literal["bathyphon-archive"] = "bathyphon-archive"
VERSION = 1
REEL, CONTENTS, MEDIA = "reel.json", "archive.json", "media"
LARGEST_TEXT = 64 * 2**20
PIECE = 2**20


class Held(BaseModel):
    """What an archive says of one medium."""

    model_config = ConfigDict(extra="allow", strict=True, frozen=True)
    id: Annotated[str, Field(min_length=1, max_length=200)]
    name: Annotated[str, Field(min_length=1, max_length=400)]
    sha256: Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
    bytes: Annotated[int, Field(ge=0, le=2**50)]


class Contents(BaseModel):
    """``archive.json``."""

    model_config = ConfigDict(extra="allow", strict=True, frozen=True)
    format: Literal["bathyphon-archive"]
    version: Annotated[int, Field(ge=1)]
    media: Annotated[tuple[Held, ...], Field(strict=False, max_length=10_000)] = ()


@dataclass(frozen=True)
class Source:
    """A medium on its way into an archive.

    Parameters
    ----------
    name : str
        What it is called.
    size : int
        Its length in bytes.
    open : callable
        Opens its bytes.
    digest : str
        Its SHA-256, if it is known already.
    """

    name: str
    size: int
    open: Callable[[], BinaryIO]
    digest: str | None = None


def packed(document: Document, media: Mapping[str, Source]) -> Iterator[bytes]:
    """An archive piece by piece, as it is written or sent.

    Parameters
    ----------
    document : dict
        The reel.
    media : dict
        Its media by their ids; one that is not there stays a name without sound. Where any of
        them lay on a disk is nobody's business elsewhere: the reel has their names alone.

    Yields
    ------
    bytes
    """
    out = _Pieces()
    held = [
        Held(id=id, name=m.name, sha256=m.digest or _digest(m), bytes=m.size)
        for id, m in media.items()
    ]
    listed = [
        {**m, "path": media[m["id"]].name if m["id"] in media else plain_name(m["path"])}
        for m in document.get("media", [])
    ]
    document = {**document, "media": listed} if listed else document
    contents = Contents(format=FORMAT, version=VERSION, media=tuple(held))
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        for name, data in ((CONTENTS, contents.model_dump(mode="json")), (REEL, document)):
            text = json.dumps(data, ensure_ascii=False, indent=1) + "\n"
            archive.writestr(_entry(name), text.encode(), zipfile.ZIP_DEFLATED)
            yield from out.taken()
        written: set[str] = set()
        for one in held:
            if one.sha256 in written:
                continue
            written.add(one.sha256)
            with (
                media[one.id].open() as source,
                archive.open(_entry(f"{MEDIA}/{one.sha256}"), "w", force_zip64=True) as entry,
            ):
                while piece := source.read(PIECE):
                    entry.write(piece)
                    yield from out.taken()
    yield from out.taken()


class Archive:
    """An archive that has been looked through: its reel is a reel, and nothing in it leads astray.

    Parameters
    ----------
    path : Path

    Attributes
    ----------
    document : dict
        The reel as it was packed.
    media : tuple of Held
        What the archive holds of its media.

    Raises
    ------
    Refused
        In one sentence, if it is none, comes from a newer version, is damaged, or holds paths that
        lead out of it.
    """

    def __init__(self, path: Path) -> None:
        try:
            self._zip = zipfile.ZipFile(path)
        except (zipfile.BadZipFile, OSError, ValueError):
            raise Refused(f"“{path.name}” is no archive of a reel") from None
        try:
            self._entries = self._looked_through()
            contents = self._text(CONTENTS)
            if not isinstance(contents, dict) or contents.get("format") != FORMAT:
                raise Refused(f"{CONTENTS} does not say that this is an archive of a reel")
            version = contents.get("version")
            if isinstance(version, int) and version > VERSION:
                raise Refused(f"this archive comes from a newer version ({version})")
            try:
                self.media = Contents.model_validate(contents).media
            except ValidationError as error:
                raise cannot_read(error, CONTENTS) from None
            self.document: Document = self._text(REEL)
            read_reel(self.document)
            self._check()
        except BaseException:
            self._zip.close()
            raise

    def __enter__(self) -> Archive:
        return self

    def __exit__(self, *_: object) -> None:
        self._zip.close()

    @property
    def size(self) -> int:
        """Bytes of all media, each content once."""
        return sum({one.sha256: one.bytes for one in self.media}.values())

    def bytes_of(self, medium: Held) -> Iterator[bytes]:
        """A medium piece by piece; refused at its end if it is not what the archive says."""
        found, size = hashlib.sha256(), 0
        try:
            with self._zip.open(f"{MEDIA}/{medium.sha256}") as entry:
                while piece := entry.read(PIECE):
                    size += len(piece)
                    if size > medium.bytes:
                        break
                    found.update(piece)
                    yield piece
        except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError):
            raise Refused(f"“{medium.name}” is damaged in this archive") from None
        if size != medium.bytes or found.hexdigest() != medium.sha256:
            raise Refused(f"“{medium.name}” is damaged in this archive: its hash is another")

    def _looked_through(self) -> set[str]:
        """Names of the entries, of which none is a surprise."""
        names: set[str] = set()
        for info in self._zip.infolist():
            name = info.filename
            kind = stat.S_IFMT(info.external_attr >> 16)
            parts = PurePosixPath(name).parts
            known = name in (REEL, CONTENTS) or (len(parts) == 2 and parts[0] == MEDIA)
            if not known or is_foreign(name) or kind not in (0, stat.S_IFREG):
                raise Refused(f"the archive holds “{name[:80]}”, which belongs in no archive")
            if name in names:
                raise Refused(f"the archive holds “{name[:80]}” twice")
            names.add(name)
        return names

    def _text(self, name: str) -> Document:
        if name not in self._entries:
            raise Refused(f"the archive holds no {name}")
        try:
            with self._zip.open(name) as entry:
                text = entry.read(LARGEST_TEXT + 1)
        except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError):
            raise Refused(f"{name} is damaged in this archive") from None
        if len(text) > LARGEST_TEXT:
            raise Refused(f"{name} is too large for a reel")
        return document_of(text, name)

    def _check(self) -> None:
        """What its parts say of each other."""
        ids = {one.id for one in self.media}
        if len(ids) != len(self.media):
            raise Refused(f"{CONTENTS} names a medium twice", "media")
        sizes = {i.filename: i.file_size for i in self._zip.infolist()}
        for one in self.media:
            if sizes.get(f"{MEDIA}/{one.sha256}") != one.bytes:
                raise Refused(f"“{one.name}” is not whole in this archive", "media")
        for index, medium in enumerate(self.document.get("media", [])):
            if medium["id"] not in ids and is_foreign(medium["path"]):
                raise Refused(
                    "a medium is looked for outside of the archive", f"media.{index}.path"
                )


def is_foreign(name: str) -> bool:
    """Whether a path leads out of the folder that it is taken from, here or on another system."""
    windows = PureWindowsPath(name)
    return (
        not name
        or "\\" in name
        or bool(windows.drive or windows.root)
        or PurePosixPath(name).is_absolute()
        or ".." in PurePosixPath(name).parts
    )


def source_of_file(path: Path, name: str | None = None, digest: str | None = None) -> Source:
    """A file as a medium on its way into an archive."""
    return Source(name or path.name, path.stat().st_size, lambda: path.open("rb"), digest)


def _digest(source: Source) -> str:
    found = hashlib.sha256()
    with source.open() as file:
        while piece := file.read(PIECE):
            found.update(piece)
    return found.hexdigest()


def _entry(name: str) -> zipfile.ZipInfo:
    """An entry that is the same whenever it is written: one reel makes one archive."""
    info = zipfile.ZipInfo(name)
    info.external_attr = (stat.S_IFREG | 0o644) << 16
    return info


class _Pieces(io.RawIOBase):
    """What has been written and not been taken yet."""

    def __init__(self) -> None:
        self._kept: list[bytes] = []

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        piece = bytes(data)
        self._kept.append(piece)
        return len(piece)

    def taken(self) -> Iterator[bytes]:
        kept, self._kept = self._kept, []
        yield from kept
