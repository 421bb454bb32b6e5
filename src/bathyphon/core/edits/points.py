"""Lists of keyframes as a document has them, rising in time: pure functions from one to another."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Collection, Iterable, Sequence
from typing import Any

Point = dict[str, Any]

SOFTER = {"hold": "linear", "linear": "smooth"}
SHARPER = {"smooth": "linear", "linear": "hold", "hold": "hold"}
SOFT_STEP = 0.5
STRETCH = 128
"""Points that are thinned together at first."""


def put(points: Iterable[Point], new: Iterable[Point]) -> list[Point]:
    """Points with others among them; what stood at the same sample gives way.

    Examples
    --------
    >>> put([{'at': 0, 'value': 1}], [{'at': 0, 'value': 2}, {'at': 9, 'value': 3}])
    [{'at': 0, 'value': 2}, {'at': 9, 'value': 3}]
    """
    by_place = {p["at"]: p for p in points}
    by_place |= {p["at"]: p for p in new}
    return [by_place[place] for place in sorted(by_place)]


class Row:
    """A list of points that is changed from place to place.

    Parameters
    ----------
    points : iterable of dict
        Rising in time.
    """

    def __init__(self, points: Iterable[Point]) -> None:
        self.points = list(points)
        self._at = [p["at"] for p in self.points]

    def holds(self, at: int) -> bool:
        """Whether the value stands still just before a sample, whatever comes there."""
        before = bisect_left(self._at, at) - 1
        return before >= 0 and self.points[before].get("ease", "linear") == "hold"

    def clear(self, after: int, before: int) -> None:
        """Take out what lies between two samples, themselves not included."""
        inside = slice(bisect_right(self._at, after), bisect_left(self._at, before))
        del self.points[inside], self._at[inside]

    def put(self, point: Point) -> None:
        """Put in a point; what stood at the same sample gives way."""
        place = bisect_left(self._at, point["at"])
        if place < len(self._at) and self._at[place] == point["at"]:
            self.points[place] = point
            return
        self.points.insert(place, point)
        self._at.insert(place, point["at"])


def without(points: Iterable[Point], places: Collection[int]) -> list[Point]:
    """Points but for those at some samples."""
    return [p for p in points if p["at"] not in places]


def replaced(
    points: Iterable[Point], places: Collection[int], change: Callable[[Point], Point]
) -> list[Point]:
    """Points with those at some samples changed; others that they land on give way."""
    points = list(points)
    changed = [change(p) for p in points if p["at"] in places]
    return put(without(points, places), changed)


def mirrored(points: list[Point], first: int, last: int) -> list[Point]:
    """Points in reverse between two samples; each way from one to the next stays what it was.

    An ease belongs to the keyframe that it leaves from, so it goes to the other end of its
    segment; what bent one way bends the other.

    Examples
    --------
    >>> [p['at'] for p in mirrored([{'at': 0}, {'at': 3}, {'at': 10}], 0, 10)]
    [0, 7, 10]
    """
    out = []
    for i, p in enumerate(points):
        before = points[i - 1] if i else None
        ease: Point = {}
        if before:
            ease = {k: before[k] for k in ("ease", "bend", "soft") if k in before}
        if ease.get("bend"):
            ease["bend"] = -ease["bend"]
        kept = {k: v for k, v in p.items() if k not in ("ease", "bend", "soft")}
        out.append({**kept, **ease, "at": first + last - p["at"]})
    return out[::-1]


def softer(point: Point) -> Point:
    """A point whose way to the next is one step softer."""
    ease = point.get("ease", "linear")
    if ease == "bend":
        soft = min(1.0, point.get("soft", 0.0) + SOFT_STEP)
        return {**point, "soft": soft}
    return {**point, "ease": SOFTER.get(ease, "smooth")}


def sharper(point: Point) -> Point:
    """A point whose way to the next is one step sharper."""
    ease = point.get("ease", "linear")
    if ease == "bend":
        soft = max(0.0, point.get("soft", 0.0) - SOFT_STEP)
        return {**point, "soft": soft}
    return {**point, "ease": SHARPER.get(ease, "linear")}


def thinned(at: Sequence[int], shares: Sequence[float], tolerance: float) -> list[int]:
    """Indices of the fewest points found whose straight connections stay within a tolerance.

    D. H. Douglas and T. K. Peucker, "Algorithms for the reduction of the number of points
    required to represent a digitized line or its caricature", Cartographica 10(2), 1973, with
    distances taken along the value. Long rows are thinned a stretch at a time, so that the work
    does not grow with the square of their length.

    Parameters
    ----------
    at : sequence of int
        Rising moments.
    shares : sequence of float
        Values on the scale that they are interpolated in.
    tolerance : float
        Largest deviation, in the unit of ``shares``.

    Examples
    --------
    >>> thinned([0, 1, 2, 3], [0.0, 1.0, 2.0, 9.0], 0.1)
    [0, 2, 3]
    """
    last = len(at) - 1
    seams = range(STRETCH, last, STRETCH)
    kept = {0, last}
    for begin in (0, *seams):
        end = min(begin + STRETCH, last)
        kept |= {begin, end}
        ahead = [(begin, end)]
        while ahead:
            a, b = ahead.pop()
            worst = _farthest(at, shares, a, b, tolerance)
            if worst is not None:
                kept.add(worst)
                ahead += [(a, worst), (worst, b)]
    rows = sorted(kept)
    for seam in seams:
        # Where two stretches meet a point may have been kept for nothing.
        place = bisect_left(rows, seam)
        before, after = rows[place - 1], rows[place + 1]
        if _farthest(at, shares, before, after, tolerance) is None:
            del rows[place]
    return rows


def _farthest(
    at: Sequence[int], shares: Sequence[float], a: int, b: int, tolerance: float
) -> int | None:
    """The point between two that lies farthest off their straight connection, if that matters."""
    slope = (shares[b] - shares[a]) / max(1, at[b] - at[a])
    worst, place = tolerance, None
    for k in range(a + 1, b):
        off = abs(shares[k] - shares[a] - slope * (at[k] - at[a]))
        if off > worst:
            worst, place = off, k
    return place
