"""``reel.json`` and the media beside it."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any

import numpy as np

from bathyphon.core.errors import Refused
from bathyphon.core.reel.chains import used_media
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.reel.parse import read_reel
from bathyphon.formats.conform import ConformedFile, Sound, conform, digest_of_file


def load_document(path: Path) -> Document:
    """Parse a ``reel.json``; refuses what is not strict JSON in UTF-8."""
    try:
        data = path.read_bytes()
    except FileNotFoundError:
        raise Refused(f"there is no file “{path}”") from None
    except (IsADirectoryError, PermissionError):
        raise Refused(f"“{path}” cannot be opened as a file") from None
    return document_of(data, path.name)


def document_of(data: bytes, name: str) -> Document:
    """Parse the bytes of a ``reel.json`` with this name."""
    try:
        document: Any = json.loads(data.decode("utf-8"), parse_constant=_no_constant)
    except UnicodeDecodeError:
        raise Refused(f"“{name}” is not UTF-8 text") from None
    except json.JSONDecodeError as error:
        raise Refused(
            f"“{name}” is not JSON: line {error.lineno}, column {error.colno}: {error.msg}"
        ) from None
    except RecursionError:
        raise Refused(f"“{name}” is nested too deeply") from None
    return document  # type: ignore[no-any-return]


def load_reel(path: Path) -> Reel:
    """Read and check a ``reel.json``."""
    return read_reel(load_document(path))


def save_document(path: Path, document: Document) -> None:
    """Write a document as UTF-8 JSON."""
    path.write_text(json.dumps(document, ensure_ascii=False, indent=1) + "\n", encoding="utf-8")


def cache_folder() -> Path:
    """Where conformed media are kept, by content hash."""
    given = os.environ.get("BATHYPHON_CACHE")
    if given:
        return Path(given)
    base = os.environ.get("XDG_CACHE_HOME") or str(Path.home() / ".cache")
    return Path(base) / "bathyphon"


class FolderMedia:
    """The media of a reel file, conformed on first use into the cache.

    Parameters
    ----------
    reel : Reel
    folder : Path
        Folder that the media's paths are relative to.
    cache : Path
        Folder of conformed media.
    """

    def __init__(self, reel: Reel, folder: Path, cache: Path | None = None) -> None:
        self._paths = {medium.id: folder / medium.path for medium in reel.media}
        self._streams = {medium.id: medium.stream for medium in reel.media}
        self._rate = reel.sample_rate
        self._cache = cache or cache_folder()
        self._digests: dict[str, str] = {}
        self._files: dict[str, ConformedFile] = {}
        for id in used_media(reel) & self._paths.keys():
            self._open(id)

    def digest(self, media: str) -> str:
        """SHA-256 of a medium's file."""
        return self._digests.get(media, "missing")

    def read(self, media: str, start: int, stop: int) -> Sound:
        """Samples of a medium at the reel's rate, shape (2, stop − start)."""
        return self._files[media].read(start, stop)

    def length(self, media: str) -> int:
        """Samples of a medium; none of one that the reel does not know."""
        return self._files[media].samples if media in self._files else 0

    def response(self, media: str, most: int) -> Sound:
        """A medium as an impulse response, shape (2, n) or (4, n)."""
        if media not in self._files:
            return np.zeros((2, 0), np.float32)
        return self._files[media].response(most)

    def _open(self, media: str) -> None:
        path = self._paths[media]
        if not path.is_file():
            raise Refused(f"the medium “{media}” should be at “{path}”, but there is no such file")
        digest = digest_of_file(path)
        stream = self._streams[media]
        if stream:
            digest = f"{digest}-{stream}"
        target = self._cache / f"{digest}-{self._rate}.f32"
        if not target.exists():
            conform(path, target, self._rate, stream=stream)
        self._digests[media] = digest
        self._files[media] = ConformedFile(target)


def _no_constant(name: str) -> float:
    raise Refused(f"{name} is not a number that a reel may hold")
