"""Pan: where a sound lies between left and right, and how wide it is."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, swept

LAWS = ("-3 dB", "-4.5 dB", "-6 dB")


def law_gains(position: Floats, law: int) -> Floats:
    """Gains of both sides, 1 at the centre, shape (2, n).

    At −3 dB powers add to 2 everywhere, at −6 dB amplitudes do; −4.5 dB lies between them.
    """
    share = (position + 100.0) / 200.0
    angle = share * (math.pi / 2.0)
    power = np.stack([np.cos(angle), np.sin(angle)]) * math.sqrt(2.0)
    linear = np.stack([1.0 - share, share]) * 2.0
    found = (power, np.sqrt(np.maximum(0.0, power * linear)), linear)[law]
    gains: Floats = np.where(position == 0.0, 1.0, np.maximum(0.0, found))
    return gains


class Pan(Processor):
    """Width, then position, then a level for each side; it has no memory."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._law = settings.choice("law")

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Place one block."""

        def value(id: str) -> Floats:
            return swept(EFFECT, self._settings, id, at, depth)

        middle = 0.5 * (x[0] + x[1])
        side = 0.5 * (x[0] - x[1]) * (value("width") / 100.0)
        gains = law_gains(value("position"), self._law)
        y = np.empty_like(x)
        y[0] = (middle + side) * gains[0] * (value("left_level") / 100.0)
        y[1] = (middle - side) * gains[1] * (value("right_level") / 100.0)
        return y


EFFECT = Effect(
    id="pan",
    label="Pan",
    engages="sweep",
    parameters=(
        Parameter(
            "position", "Position", "", -100.0, 100.0, "linear", default=0.0, neutral=0.0,
            help="−100 is left alone, 100 right alone.",
        ),
        Parameter(
            "width", "Width", "%", 0.0, 200.0, "linear", default=100.0, neutral=100.0,
            help="0 % is the middle alone, above 100 % wider than it came.",
        ),
        Parameter(
            "law", "Law", "", 0.0, 2.0, "linear", default=0.0, movable=False, choices=LAWS,
            help="How loud the middle is against the sides; −3 dB keeps the power the same.",
        ),
        Parameter(
            "left_level", "Left", "%", 0.0, 150.0, "linear", default=100.0, neutral=100.0,
            help="Level of the left side alone.",
        ),
        Parameter(
            "right_level", "Right", "%", 0.0, 150.0, "linear", default=100.0, neutral=100.0,
            help="Level of the right side alone.",
        ),
    ),
    telling=("position", "width"),
    make=Pan,
    help="Place a sound between left and right, or narrow and widen it.",
)  # fmt: skip
