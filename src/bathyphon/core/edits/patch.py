"""JSON Patch (RFC 6902) on immutable documents, with exact inverses.

Only ``add``, ``remove`` and ``replace`` occur. Documents are never changed in place: what a
patch touches is copied along its path, everything else is shared. A patch of thousands of steps
copies each part once, so that its cost follows its size.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from bathyphon.core.errors import Refused

LARGE = 200
"""Parts of a value that are looked at one by one."""

Op = dict[str, Any]
Patch = list[Op]


def pointer(*parts: str | int) -> str:
    """JSON Pointer (RFC 6901) of a path.

    Examples
    --------
    >>> pointer('tracks', 0, 'name')
    '/tracks/0/name'
    """
    plain = "/" + "/".join(map(str, parts)) if parts else ""
    if "~" not in plain and plain.count("/") == len(parts):
        return plain
    return "".join("/" + str(p).replace("~", "~0").replace("/", "~1") for p in parts)


def parts_of(path: str) -> list[str]:
    """The parts of a JSON Pointer."""
    if "~" not in path:
        return path.split("/")[1:]
    return [p.replace("~1", "/").replace("~0", "~") for p in path.split("/")[1:]]


class Draft:
    """A document on its way to another one, step by step.

    Parameters
    ----------
    document : object
        It is left as it is.

    Attributes
    ----------
    document : object
        What it has become so far, another object after each :meth:`apply`. Its parts go on
        changing: what is read from it is to be read again after that.
    """

    def __init__(self, document: Any) -> None:
        self.document = document
        # What has been copied here and may be written to, kept alive so that no identity recurs.
        self._own: dict[int, Any] = {}
        self._back: Patch = []
        self._touched: set[str] = set()

    def apply(self, patch: Iterable[Op]) -> None:
        """Take steps.

        Raises
        ------
        Refused
            If the document has no such place.
        """
        self.document = self._copied(self.document)
        for op in patch:
            self._step(op)

    def inverse(self) -> Patch:
        """The patch that leads back, to the identical document."""
        return self._back[::-1]

    def touches(self) -> list[str]:
        """The places that have been touched, with ids in place of positions in lists.

        Two patches whose places are not equal and not inside one another do not disturb each other.
        """
        return sorted(self._touched)

    def _step(self, op: Op) -> None:
        where = op["path"]
        parts = parts_of(where)
        if not parts:
            raise Refused("the document has no such place", where)
        node = self.document
        if not isinstance(node, (dict, list)):
            raise Refused("the document has no such place", where)
        names: list[str] = []
        for part in parts[:-1]:
            key = _key(node, part, where)
            if not (key < len(node) if isinstance(node, list) else key in node):
                raise Refused("the document has no such place", where)
            child = self._owned(node[key], where)
            names.append(_name(node, part, child))
            node[key] = node = child
        key = _key(node, parts[-1], where)
        there = key < len(node) if isinstance(node, list) else key in node
        kind, value = op["op"], op.get("value")
        item = value if kind == "add" or not there else node[key]
        names.append(_name(node, parts[-1], item))
        self._touched.add(pointer(*names))
        self._back.append(self._change(node, key, there, kind, value, where))

    def _change(self, node: Any, key: Any, there: bool, kind: str, value: Any, where: str) -> Op:
        """Carry out the last part of a step; the step that takes it back."""
        if kind in ("add", "replace"):
            self._disown(value)
        if kind == "add" and isinstance(node, list):
            node.insert(key, value)
            return {"op": "remove", "path": where}
        if kind == "add" and not there:
            node[key] = value
            return {"op": "remove", "path": where}
        if not there or kind not in ("add", "replace", "remove"):
            raise Refused("the document has no such place", where)
        before = node[key]
        self._disown(before)
        if kind == "remove":
            del node[key]
            return {"op": "add", "path": where, "value": before}
        node[key] = value
        return {"op": "replace", "path": where, "value": before}

    def _owned(self, node: Any, where: str) -> Any:
        """A part that may be written to: a copy, unless it is one already."""
        if not isinstance(node, (dict, list)):
            raise Refused("the document has no such place", where)
        return node if id(node) in self._own else self._copied(node)

    def _copied(self, node: Any) -> Any:
        if not isinstance(node, (dict, list)):
            return node
        copy = node.copy()
        self._own[id(copy)] = copy
        return copy

    def _disown(self, value: Any) -> None:
        """What a step brings in or takes out belongs to the patch from then on."""
        ahead = [value]
        seen = 0
        while ahead:
            node = ahead.pop()
            kind = type(node)
            if kind is dict or kind is list:
                self._own.pop(id(node), None)
                ahead += node.values() if kind is dict else node
                seen += 1
                if seen > LARGE:
                    # Rather than go through all of it, copy what is written to next once more.
                    root = self.document
                    self._own = {id(root): root}
                    return


def apply_patch(document: Any, patch: Sequence[Op]) -> tuple[Any, Patch]:
    """Apply a patch.

    Returns
    -------
    document : object
        A new document.
    inverse : list of dict
        The patch that leads back, to the identical document.

    Examples
    --------
    >>> apply_patch({'name': 'old'}, [{'op': 'replace', 'path': '/name', 'value': 'new'}])[0]
    {'name': 'new'}
    """
    draft = Draft(document)
    draft.apply(patch)
    return draft.document, draft.inverse()


def touched(document: Any, patch: Sequence[Op]) -> list[str]:
    """The places a patch touches; see :meth:`Draft.touches`."""
    draft = Draft(document)
    draft.apply(patch)
    return draft.touches()


def _key(node: Any, part: str, where: str) -> Any:
    if not isinstance(node, list):
        return part
    if not part.isdigit() or int(part) > len(node):
        raise Refused("the document has no such place", where)
    return int(part)


def _name(node: Any, part: str, item: Any) -> str:
    """What a place is called: its key, or in a list the id of what lies there."""
    if not isinstance(node, list):
        return part
    return str(item["id"]) if isinstance(item, dict) and "id" in item else "*"


def disturbs(a: Sequence[str], b: Sequence[str]) -> bool:
    """Whether any place of ``a`` equals, holds or lies in a place of ``b``."""
    mine, others = set(a), set(b)
    return any(holder in others for place in a for holder in _holders(place)) or any(
        holder in mine for place in b for holder in _holders(place)
    )


def _holders(place: str) -> Iterable[str]:
    """A place and all that hold it."""
    yield place
    while "/" in place:
        place = place.rpartition("/")[0]
        yield place
