"""JSON Patch (RFC 6902) on immutable documents, with exact inverses.

Only ``add``, ``remove`` and ``replace`` occur. Documents are never changed in place: what a
patch touches is copied along its path, everything else is shared.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from bathyphon.core.errors import Refused

Op = dict[str, Any]
Patch = list[Op]


def pointer(*parts: str | int) -> str:
    """JSON Pointer (RFC 6901) of a path."""
    return "".join("/" + str(p).replace("~", "~0").replace("/", "~1") for p in parts)


def parts_of(path: str) -> list[str]:
    """The parts of a JSON Pointer."""
    return [p.replace("~1", "/").replace("~0", "~") for p in path.split("/")[1:]]


def apply_patch(document: Any, patch: Sequence[Op]) -> tuple[Any, Patch]:
    """Apply a patch.

    Returns
    -------
    document : object
        A new document.
    inverse : list of dict
        The patch that leads back, to the identical document.
    """
    inverse: Patch = []
    for op in patch:
        document, back = _apply(document, op, parts_of(op["path"]), op["path"])
        inverse.insert(0, back)
    return document, inverse


def _apply(node: Any, op: Op, parts: list[str], whole: str) -> tuple[Any, Op]:
    if not isinstance(node, (dict, list)) or not parts:
        raise Refused("the document has no such place", whole)
    head, *rest = parts
    key: Any = _index(node, head, whole) if isinstance(node, list) else head
    copy = node.copy()
    if rest:
        if isinstance(node, dict) and key not in node:
            raise Refused("the document has no such place", whole)
        copy[key], back = _apply(node[key], op, rest, whole)
        return copy, back
    kind = op["op"]
    there = key < len(node) if isinstance(node, list) else key in node
    if kind == "add" and isinstance(copy, list):
        copy.insert(key, op["value"])
        return copy, {"op": "remove", "path": whole}
    if kind == "add" and not there:
        copy[key] = op["value"]
        return copy, {"op": "remove", "path": whole}
    if kind in ("add", "replace"):
        if not there:
            raise Refused("the document has no such place", whole)
        copy[key] = op["value"]
        return copy, {"op": "replace", "path": whole, "value": node[key]}
    if kind == "remove" and there:
        del copy[key]
        return copy, {"op": "add", "path": whole, "value": node[key]}
    raise Refused("the document has no such place", whole)


def _index(node: list[Any], part: str, whole: str) -> int:
    if not part.isdigit() or int(part) > len(node):
        raise Refused("the document has no such place", whole)
    return int(part)


def touched(document: Any, patch: Sequence[Op]) -> list[str]:
    """The places a patch touches, with ids in place of positions in lists.

    Two patches whose places are not equal and not inside one another do not disturb each other.
    """
    places = []
    for op in patch:
        node: Any = document
        names: list[str] = []
        for part in parts_of(op["path"]):
            if isinstance(node, list):
                item = node[int(part)] if int(part) < len(node) else op.get("value")
                if op["op"] == "add" and len(names) + 1 == len(parts_of(op["path"])):
                    item = op["value"]
                names.append(str(item["id"]) if isinstance(item, dict) and "id" in item else "*")
                node = item
            else:
                names.append(part)
                node = node.get(part) if isinstance(node, dict) else None
        places.append(pointer(*names))
        document, _ = apply_patch(document, [op])
    return sorted(set(places))


def disturbs(a: Sequence[str], b: Sequence[str]) -> bool:
    """Whether any place of ``a`` equals, holds or lies in a place of ``b``."""
    return any(x == y or x.startswith(y + "/") or y.startswith(x + "/") for x in a for y in b)
