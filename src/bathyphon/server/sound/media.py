"""The engine's view of an account's media."""

from __future__ import annotations

import threading
from pathlib import Path

import numpy as np
from cachetools import LRUCache
from django.contrib.auth.models import User

from bathyphon.core.reel.model import Reel
from bathyphon.formats.conform import ConformedFile, Sound
from bathyphon.server.media.models import Media, known_ids

MOST_FILES = 500
"""Files that are held open; they are mapped into memory, and cost only what is read of them."""

_files: LRUCache[Path, tuple[str, ConformedFile]] = LRUCache(MOST_FILES)
_lock = threading.Lock()


class PreparedMedia:
    """Conformed media of a reel. What is not ready, not there or not this account's is silence.

    Parameters
    ----------
    account : User
        Whose media may be used.
    reel : Reel

    Attributes
    ----------
    missing : list of str
        Media that are not there.
    converting : list of Media
        Those whose sound is there, but not yet at the reel's rate.
    """

    def __init__(self, account: User, reel: Reel) -> None:
        wanted = known_ids(m.id for m in reel.media)
        rows = Media.visible_to(account).filter(pk__in=wanted).exclude(state=Media.FAILED)
        # Sound is asked for many times a second; moments in time take long to read.
        known = list(rows.defer("created", "blob__created"))
        self._paths: dict[str, tuple[str, Path]] = {}
        self.converting: list[Media] = []
        for row in known:
            if not row.sound_ready:
                continue
            path = row.sound_at(reel.sample_rate)
            file = _identity(path)
            if file:
                # What has been prepared anew is another sound, though it be of the same file.
                self._paths[wanted[row.pk]] = (f"{row.blob.digest}/{row.stream}/{file}", path)
            elif row.rate != reel.sample_rate:
                self.converting.append(row)
        there = {wanted[row.pk] for row in known}
        self.missing = [m.id for m in reel.media if m.id not in there]

    def digest(self, media: str) -> str:
        """Hash of the medium's content; of a missing one, that it is missing."""
        found = self._paths.get(media)
        return found[0] if found else "missing"

    def read(self, media: str, start: int, stop: int) -> Sound:
        """Samples of a medium, shape (2, stop − start)."""
        found = self._paths.get(media)
        if found is None:
            return np.zeros((2, stop - start), np.float32)
        return self._file(found[1]).read(start, stop)

    def length(self, media: str) -> int:
        """Samples of a medium; none of a missing one."""
        found = self._paths.get(media)
        return self._file(found[1]).samples if found else 0

    def response(self, media: str, most: int) -> Sound:
        """A medium as an impulse response; silence of no length for a missing one."""
        found = self._paths.get(media)
        return self._file(found[1]).response(most) if found else np.zeros((2, 0), np.float32)

    def _file(self, path: Path) -> ConformedFile:
        with _lock:
            now = _identity(path)
            known = _files.get(path)
            if known is None or known[0] != now:
                known = _files[path] = (now, ConformedFile(path))
        return known[1]


def _identity(path: Path) -> str:
    """What tells a file from another one of the same name; empty if there is none."""
    try:
        found = path.stat()
    except OSError:
        return ""
    return f"{found.st_ino:x}-{found.st_mtime_ns:x}-{found.st_size:x}"
