"""The sound of clips, and of what has a level: what their nodes say, computed."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.pan import law_gains
from bathyphon.core.engine.edges import around, begins, short_glide
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.nodes import ClipNode, LevelNode
from bathyphon.core.timing.constants import still

if TYPE_CHECKING:
    from bathyphon.core.engine.sped import SpedSound


def clip_sound(node: ClipNode, media: Media, start: int, stop: int, rough: bool = False) -> Floats:
    """The clip's sound in ``[start, stop)`` of the reel, shape (2, stop − start).

    ``rough``: at once rather than exact, where it is stretched.
    """
    a, b = max(start, node.begins), min(stop, node.ends)
    if a >= b:
        return np.zeros((2, stop - start))
    at = a - node.start
    n = b - a
    first = node.source_start + at
    read = (
        media.read(node.media, first, first + n)
        if node.change is None
        else sped_of(node, rough).read(media, node.origin + at, node.origin + at + n)
    )
    # A copy of its own, in one piece.
    sound = np.array(read, np.float64, order="C")
    gain = gain_of_db(still(node.gain_db.values(at, n, node.rate)))
    scaled_by(sound, gain * still(node.envelope.values(at, n)))
    if n == stop - start:
        return sound
    out = np.zeros((2, stop - start))
    out[:, a - start : b - start] = sound
    return out


def opens(node: ClipNode, media: Media) -> bool:
    """Whether its beginning is no hard edge: its sound begins there, or is faded in."""
    if node.envelope.head >= short_glide(node.rate):
        return True
    reach, place = around(node.rate), node.opening
    sound = media.read(node.media, place - reach, place + reach).astype(np.float64)
    return begins(sound[:, :reach], sound[:, reach:])


def sped_of(node: ClipNode, rough: bool = False) -> SpedSound:
    """The clip's medium at its speed; kept with the node, so that it is looked for once."""
    assert node.change is not None
    # What is only read faster is there at once.
    rough = rough and node.change.stretches
    if rough not in node.sped:
        # Most reels hold no such clip, and what stretches sound takes long to import.
        from bathyphon.core.engine.sped import SpedSound, sped_sound

        medium, digest, begins = node.media, node.digest, node.source_start
        # What a hand passes through would drive out of memory what all others go on from.
        node.sped[rough] = (
            SpedSound(medium, digest, begins, node.change, node.rate, rough)
            if rough
            else sped_sound(medium, digest, begins, node.change, node.rate)
        )
    return node.sped[rough]


def levelled(node: LevelNode, x: Floats, start: int) -> Floats:
    """Level and pan of samples from ``start``, shape (2, n)."""
    n = x.shape[1]
    gain = gain_of_db(still(node.gain_db.values(start, n, node.rate)))
    if node.pan is None or not (node.pan.moves or node.pan.largest != 0.0):
        return rounded(x, gain)
    y = x * gain
    return rounded(y, law_gains(still(node.pan.values(start, n, node.rate))))


def scaled_by(x: Floats, gain: Floats) -> None:
    """Multiply in place by a gain, of one value or of one for each sample."""
    if gain.size > 1 or gain[0] != 1.0:
        x *= gain


def rounded(x: Floats, gain: Floats) -> Floats:
    """Samples times a gain as above, to the precision of float32; no zero is negative."""
    if gain.size == 1 and gain.flat[0] == 1.0:
        single = x.astype(np.float32)
    else:
        single = np.empty(x.shape, np.float32)
        # Worked out in float64, and rounded on its way out.
        np.multiply(x, gain, out=single, dtype=np.float64, casting="same_kind")
    # Zero has one sign, whichever way it was reached.
    return np.add(single, 0.0, dtype=np.float64)
