"""Where a graph's sound comes from."""

from __future__ import annotations

from typing import Protocol

import numpy as np
from numpy.typing import NDArray


class Media(Protocol):
    """Where clips read from: whole media, conformed to the reel's rate and to stereo."""

    def read(self, media: str, start: int, stop: int) -> NDArray[np.float32]:
        """Samples ``start … stop − 1``, shape (2, stop − start), zeros outside the medium."""

    def digest(self, media: str) -> str:
        """Hash of the medium's content."""

    def length(self, media: str) -> int:
        """Samples of the medium."""

    def response(self, media: str, most: int) -> NDArray[np.float32]:
        """Up to ``most`` samples as an impulse response, shape (2, n), or (4, n) of four paths:

        left to left, left to right, right to left, right to right.
        """
