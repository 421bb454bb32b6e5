"""The reverb's rings: the same bits at any rate and size, past their ends and past a sweep."""

import numpy as np
import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.reverb.rings import SWEEP
from bathyphon.core.engine.plan import effect_settings
from bathyphon.core.reel.model import EffectPart

N = 3 * SWEEP


def run(settings, x, block, begin, checkpoint=None):
    """In blocks; from another processor behind a checkpoint."""
    processor, parts, at = EFFECTS["reverb"].make(settings), [], 0
    while at < N:
        piece = x[:, at : at + block].copy()
        parts.append(processor.process(piece, begin + at, np.ones(piece.shape[1])))
        at += piece.shape[1]
        if checkpoint and at >= checkpoint:
            state, processor = processor.state(), EFFECTS["reverb"].make(settings)
            processor.restore(state)
            checkpoint = None
    return np.concatenate(parts, axis=1)


@pytest.mark.parametrize("begin", [0, 37])
@pytest.mark.parametrize("size", [10, 100, 200])
@pytest.mark.parametrize("rate", [32000, 44100, 96000])
def test_the_same_bits_in_any_blocks(rate, size, begin):
    params = {"size": size, "predelay_ms": 3.3}
    settings = effect_settings(EffectPart(id="e", kind="reverb", params=params), rate)
    x = np.random.default_rng(size).standard_normal((2, N)) * 0.1
    # Later so soft that a sweep takes it away.
    x[:, N // 2 :] *= 1e-33
    whole = run(settings, x, N, begin)
    assert np.abs(whole[:, N // 2 + 500]).max() > 1e-6
    for block, checkpoint in ((333, None), (64, SWEEP + 616), (4096, None), (1000, SWEEP + 617)):
        assert np.array_equal(run(settings, x, block, begin, checkpoint), whole)
