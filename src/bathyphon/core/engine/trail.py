"""Where treatments stood a moment ago, for those that take their place after a change."""

from __future__ import annotations

from collections.abc import Iterable
from weakref import WeakValueDictionary

from cachetools import LRUCache

from bathyphon.core.effects.kit.processor import State
from bathyphon.core.engine.nodes import Node, TreatedNode
from bathyphon.core.engine.plan import Plan
from bathyphon.core.engine.running import Running

KEPT = 40
"""Moments that are remembered, of all treatments together; a full chain has 1.5 MB of memories."""

Memories = tuple[State, ...]


class Trail:
    """Memories of treatments at the last few moments, by their places in the document.

    A treatment whose values have just been changed goes on from what the one before it remembered:
    what rings goes on to ring, and nothing is worked out again for that.
    """

    def __init__(self) -> None:
        self._known: LRUCache[tuple[str, int], tuple[Plan, Memories]] = LRUCache(KEPT)
        self._exact: WeakValueDictionary[str, TreatedNode] = WeakValueDictionary()

    def keep(self, node: TreatedNode, at: int, running: Running) -> None:
        """Note what a treatment remembers before a sample, unless that is known."""
        known = self._known.get((node.name, at))
        if known is None or known[0] is not node.plan:
            self._known[node.name, at] = (node.plan, running.state())

    def take(self, node: TreatedNode, at: int, running: Running) -> bool:
        """Go on at a sample from what stood there before; whether there was something that fits."""
        known = self._known.get((node.name, at))
        return known is not None and go_on(*known, node, running)

    def heard(self, nodes: Iterable[Node]) -> None:
        """These treatments have been worked out exactly; their states may be known."""
        for node in nodes:
            if isinstance(node, TreatedNode):
                self._exact[node.name] = node

    def before(self, node: TreatedNode) -> TreatedNode | None:
        """The treatment that was heard last where this one stands now."""
        return self._exact.get(node.name)


def go_on(plan: Plan, memories: Memories, node: TreatedNode, running: Running) -> bool:
    """Go on from what a treatment of another plan remembered; whether that fits."""
    if _built(plan) != _built(node.plan) or _shapes(memories) != _shapes(running.state()):
        return False
    running.restore(memories)
    return True


def _built(plan: Plan) -> tuple[object, ...]:
    """What of a plan decides which memories there are."""
    links = tuple((link.id, link.effect.id) for link in plan.links)
    return links, tuple(plan.lookaheads), plan.first_send


def _shapes(memories: Memories) -> list[list[tuple[int, ...]]]:
    return [[part.shape for part in parts] for parts in memories]
