"""Where in a graph the parts of a document are."""

from __future__ import annotations

from dataclasses import dataclass, field

from bathyphon.core.engine.graph import Graph
from bathyphon.core.engine.nodes import Layers, Node, SumNode, TreatedNode


@dataclass
class Places:
    """Nodes by the paths of what they belong to.

    Parameters
    ----------
    treated : dict
        Treatments by their path, such as ``tracks.0.treatments.1``.
    sources : dict
        Clips before their treatment, by path.
    sums : dict
        Clips of a track added up, before its spans, by the track's path.
    """

    treated: dict[str, TreatedNode] = field(default_factory=dict)
    sources: dict[str, Node] = field(default_factory=dict)
    sums: dict[str, SumNode] = field(default_factory=dict)


def places_of(graph: Graph) -> Places:
    """Find the nodes of a graph's parts, those of muted tracks included."""
    found = Places()
    waiting: list[Node] = [graph.out, *graph.tracks.values()]
    seen: set[int] = set()
    while waiting:
        node = waiting.pop()
        if id(node) in seen:
            continue
        seen.add(id(node))
        waiting += node.inputs
        if isinstance(node, Layers):
            waiting += node.treated
        if isinstance(node, TreatedNode):
            found.treated[node.name] = node
        elif isinstance(node, SumNode):
            found.sums[node.name] = node
        elif not node.inputs:
            found.sources[node.name] = node
    return found
