"""What is found in pictures and sounds, as plain values: cuts and stretches of tempo."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Cut:
    """A cut.

    Parameters
    ----------
    frame : int
        First frame of the new shot; for a soft cut, its middle.
    length : int
        Frames of a soft cut; 0 for a hard one.
    kind : {"hard", "dissolve", "fade"}
    """

    frame: int
    length: int = 0
    kind: str = "hard"


@dataclass(frozen=True)
class Stretch:
    """A stretch of constant tempo.

    Parameters
    ----------
    first : float
        Sample of its first beat.
    period : float
        Samples from beat to beat.
    count : int
        Beats in it.
    """

    first: float
    period: float
    count: int

    def at_rate(self, rate: int, other: int) -> Stretch:
        """The same, of a sound at one rate, in samples of another."""
        if rate == other:
            return self
        return Stretch(self.first * other / rate, self.period * other / rate, self.count)
