"""How long it sounds on, and how far ahead it looks."""

from __future__ import annotations

import math

from bathyphon.core.dsp.latency import CONVOLUTION
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.kit.tails import TAIL_LIMIT_SECONDS
from bathyphon.core.effects.space.places import seconds
from bathyphon.core.effects.space.table import SPACES


def predelay_of(settings: Settings) -> int:
    value = settings.fixed("predelay_ms")
    return round(value * settings.sample_rate / 1000.0)


def tail(settings: Settings) -> int:
    """Samples of the response and its pre-delay."""
    if settings.curves["mix"].largest <= 0.0:
        return 0
    given = settings.sounds.get("file")
    rate = settings.sample_rate
    longest = seconds(SPACES[settings.choice("response")])
    if given is not None:
        longest = given[1].shape[1] / rate
    longest *= settings.fixed("stretch") / 100.0
    closing = 0.02
    return predelay_of(settings) + math.ceil(min(longest + closing, TAIL_LIMIT_SECONDS) * rate)


def lookahead(settings: Settings) -> int:
    """Samples that the convolution answers late."""
    return CONVOLUTION
