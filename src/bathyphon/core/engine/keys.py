"""Names of what a graph yields: the hash of all that determines it.

Two kinds, which must not be mixed up. The key of an *output* says what sounds in a chunk, so equal
sounds may share it: silence has one for all, and a treatment that does nothing in a chunk passes on
its source's. The key of a *state* says what a treatment remembers after a chunk; it belongs to that
treatment's own course from its beginning on, and to nothing else.

    K_i = H(what never changes, parameters and curve pieces touching chunk i, K_{i−1}, inputs' keys)
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from hashlib import blake2b
from weakref import WeakKeyDictionary

import llvmlite.binding
import numba
import numpy as np
import scipy

from bathyphon.core.engine.nodes import Node, TreatedNode, heard_from
from bathyphon.core.engine.steps import Steps, run
from bathyphon.version import __version__

SALT = repr(
    (
        __version__,
        np.__version__,
        numba.__version__,
        scipy.__version__,
        llvmlite.binding.get_host_cpu_name(),
    )
).encode()
ALWAYS = 2**62


class Superseded(Exception):
    """The result is no longer wanted."""


@dataclass
class Keys:
    """Keys of nodes, chunk by chunk; kept for as long as there are the nodes.

    Parameters
    ----------
    grid : int
        Samples of a chunk.
    """

    grid: int
    _outputs: WeakKeyDictionary[Node, dict[int, bytes]] = field(default_factory=WeakKeyDictionary)
    _states: WeakKeyDictionary[Node, dict[int, bytes]] = field(default_factory=WeakKeyDictionary)
    _fixed: WeakKeyDictionary[Node, bytes] = field(default_factory=WeakKeyDictionary)

    @property
    def silence(self) -> bytes:
        """Key of a silent chunk, whatever is silent in it."""
        return b"silence-%d" % self.grid

    def output(self, node: Node, chunk: int, wanted: Callable[[], bool] = lambda: True) -> bytes:
        """Key of what sounds in a node's chunk.

        Raises
        ------
        Superseded
            If ``wanted`` said no on the way.
        """
        return run(self._output(node, chunk, wanted))

    def state(
        self, node: TreatedNode, chunk: int, wanted: Callable[[], bool] = lambda: True
    ) -> bytes:
        """Key of what a treatment remembers after a chunk of its span or tail."""
        return run(self._state(node, chunk, wanted))

    def known_state(self, node: TreatedNode, chunk: int) -> bytes | None:
        """The same if it has been worked out before, which takes no time."""
        return self._states.get(node, {}).get(chunk)

    def known_output(self, node: Node, chunk: int) -> bytes | None:
        """Likewise of an output."""
        start, stop = chunk * self.grid, (chunk + 1) * self.grid
        node = heard_from(node, start, stop)
        if node.silent(start, stop):
            return self.silence
        known = self._states if isinstance(node, TreatedNode) else self._outputs
        return known.get(node, {}).get(chunk)

    def _output(self, node: Node, chunk: int, wanted: Callable[[], bool]) -> Steps[bytes]:
        start, stop = chunk * self.grid, (chunk + 1) * self.grid
        node = heard_from(node, start, stop)
        if node.silent(start, stop):
            return self.silence
        if isinstance(node, TreatedNode):
            key: bytes = yield self._state(node, chunk, wanted)
            return key
        known = self._outputs.setdefault(node, {})
        if chunk not in known:
            parts = [SALT, repr((self.grid, node.touching(start, stop))).encode()]
            for source in node.inputs:
                if not source.silent(start, stop):
                    parts.append((yield self._output(source, chunk, wanted)))
            known[chunk] = _hashed(parts)
        return known[chunk]

    def _state(self, node: TreatedNode, chunk: int, wanted: Callable[[], bool]) -> Steps[bytes]:
        known = self._states.setdefault(node, {})
        if chunk in known:
            return known[chunk]
        first = node.first // self.grid
        at = chunk
        while at > first and at - 1 not in known:
            at -= 1
        # In order from the last that is known: each needs the one before it.
        for i in range(at, chunk + 1):
            if not wanted():
                raise Superseded
            known[i] = yield self._next(node, i, known.get(i - 1), wanted)
        return known[chunk]

    def _next(
        self, node: TreatedNode, chunk: int, before: bytes | None, wanted: Callable[[], bool]
    ) -> Steps[bytes]:
        start, stop = chunk * self.grid, (chunk + 1) * self.grid
        parts = [self._never_changing(node), repr(node.touching(start, stop)).encode()]
        last = (stop - 1 + node.plan.lookahead) // self.grid
        if before is None:
            # It begins: with all that is set to move before, and what it is fed to settle.
            ahead = node.first + max(node.plan.lookahead, node.plan.around)
            last = max(last, ahead // self.grid)
            parts.append(repr(node.plan.touching(-ALWAYS, stop - node.start)).encode())
            earliest = max(0, node.first - node.reach) // self.grid
            chunks = [*range(earliest, node.first // self.grid), *range(chunk, last + 1)]
        else:
            parts.append(before)
            chunks = list(range(chunk, last + 1))
        for source in node.inputs:
            for i in chunks:
                parts.append((yield self._output(source, i, wanted)))
        return _hashed(parts)

    def _never_changing(self, node: TreatedNode) -> bytes:
        found = self._fixed.get(node)
        if found is None:
            plan = repr((self.grid, node.plan.fixed)).encode()
            found = self._fixed[node] = _hashed([SALT, plan, b"treated"])
        return found


def _hashed(parts: list[bytes]) -> bytes:
    return blake2b(b"|".join(parts), digest_size=20).digest()
