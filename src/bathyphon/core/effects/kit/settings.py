"""The parameters of one effect at work."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.table import Table
from bathyphon.core.timing.constants import constant
from bathyphon.core.timing.curves import Curve


@dataclass(frozen=True)
class Settings:
    """The parameters of one effect in a document, every one of them a curve.

    ``given`` names those that the document sets itself; ``length`` counts the samples of its
    owner, at whose end what is held is let go; ``frame_rate`` are frames of the reel a second.
    ``refers`` holds the ids that references name, and ``sounds`` the media among them: their digest
    and their samples, of shape (2, n) or (4, n). Noise begins from ``seed``, so that no two effects
    of a reel make the same.
    """

    curves: Mapping[str, Curve]
    sample_rate: int
    given: frozenset[str] = frozenset()
    length: int | None = None
    frame_rate: float = 25.0
    refers: Mapping[str, str] = field(default_factory=dict)
    sounds: Mapping[str, tuple[str, NDArray[np.float32]]] = field(default_factory=dict)
    seed: int = 0

    def values(self, id: str, at: int, count: int) -> Floats:
        """Values of a parameter at samples ``at … at + count − 1`` of its owner."""
        return self.curves[id].values(at, count, self.sample_rate)

    def mapped(self, id: str, of: Callable[[Floats], Floats], at: int, count: int) -> Floats:
        """Values of a parameter after a function of each; once only if it never moves."""
        curve = self.curves[id]
        if curve.moves:
            found = of(self.values(id, at, count))
            return found if found.size == count else np.full(count, found[0])
        return constant(float(of(np.full(1, curve.keyframes[0].value))[0]), count)

    @cached_property
    def fixed_values(self) -> tuple[object, ...]:
        """What decides all values and never changes on the way, with how far what moves reaches."""
        return (
            self.sample_rate,
            self.frame_rate,
            self.seed,
            tuple(
                (id, id in self.given, reached(curve)) for id, curve in sorted(self.curves.items())
            ),
            tuple(sorted(self.refers.items())),
            tuple((id, digest) for id, (digest, _) in sorted(self.sounds.items())),
        )

    @cached_property
    def _moving(self) -> tuple[Curve, ...]:
        return tuple(curve for _, curve in sorted(self.curves.items()) if curve.moves)

    def touching(self, start: int, stop: int) -> tuple[object, ...]:
        """What decides the values that move in ``[start, stop)``."""
        return tuple(curve.touching(start, stop, self.sample_rate) for curve in self._moving)

    def fixed(self, id: str) -> float:
        """Value of a parameter that does not move."""
        return self.curves[id].keyframes[0].value

    def moves(self, *ids: str) -> bool:
        """Whether one of these parameters ever changes."""
        return any(self.curves[id].moves for id in ids)

    def choice(self, id: str) -> int:
        """Index of what was chosen."""
        return int(self.fixed(id))

    def entries(self, group: str) -> int:
        """How many entries a group has."""
        return len({id.split(".")[1] for id in self.curves if id.startswith(f"{group}.")})


def reached(curve: Curve) -> tuple[object, ...]:
    """What of a curve is the same everywhere: its first value, whether it moves, and how far."""
    first = curve.keyframes[0].value
    return (curve.scale, curve.straight, first, curve.moves, curve.smallest, curve.largest)


def completed(
    table: Table,
    given: Mapping[str, Curve],
    sample_rate: int,
    refers: Mapping[str, str] | None = None,
) -> Settings:
    """What a document gives, with the table's defaults for all else."""
    curves = dict(given)
    for p in table.parameters:
        if p.id not in curves and p.default is not None:
            curves[p.id] = Curve.constant(p.default, p.scale)
    for p in table.parameters:
        if p.id not in curves and p.follows:
            curves[p.id] = curves[p.follows]
    return Settings(curves, sample_rate, frozenset(given), refers=dict(refers or {}))
