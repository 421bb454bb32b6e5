"""One clip by itself, with its own effects and nothing else of the reel."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.edits.find import at, clip_path
from bathyphon.core.engine.graph import build_graph
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.render import render
from bathyphon.core.reel.model import Document
from bathyphon.core.reel.parse import read_reel

SILENT = 1e-4
"""A part whose samples are all smaller holds nothing to be listened to (−80 dBFS)."""


def clip_alone(document: Document, clip: str, media: Media, seconds: float) -> Floats:
    """The sound of a clip, from where anything is heard on.

    Parameters
    ----------
    document : dict
    clip : str
        Its id.
    media : Media
        Where sounds come from.
    seconds : float
        So much of it at most.

    Returns
    -------
    ndarray of float64, shape (2, n)
    """
    found = {**at(document, clip_path(document, clip)), "start": 0, "enabled": True}
    reel = read_reel(
        {
            **{key: value for key, value in document.items() if key not in ("picture", "mix")},
            "tracks": [{"id": "alone", "clips": [found], "treatments": []}],
        }
    )
    most = round(seconds * reel.sample_rate)
    heard = np.zeros((2, 0))
    for part in render(build_graph(reel, media), media, 0, found["length"]):
        if heard.size or np.abs(part.mix).max() > SILENT:
            heard = np.concatenate([heard, part.mix], axis=1)
        if heard.shape[1] >= most:
            break
    return heard[:, :most]
