"""Lists of keyframes as a document has them, rising in time: pure functions from one to another."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable
from typing import Any

import numpy as np

from bathyphon.core.curves import Curve, Floats

Point = dict[str, Any]

SOFTER = {"hold": "linear", "linear": "smooth"}
SHARPER = {"smooth": "linear", "linear": "hold", "hold": "hold"}
SOFT_STEP = 0.5


def put(points: Iterable[Point], new: Iterable[Point]) -> list[Point]:
    """Points with others among them; what stood at the same sample gives way."""
    by_place = {p["at"]: p for p in points}
    by_place |= {p["at"]: p for p in new}
    return [by_place[place] for place in sorted(by_place)]


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


def thinned(at: Floats, shares: Floats, tolerance: float) -> list[int]:
    """Indices of the fewest points found whose straight connections stay within a tolerance.

    D. H. Douglas and T. K. Peucker, "Algorithms for the reduction of the number of points
    required to represent a digitized line or its caricature", Cartographica 10(2), 1973, with
    distances taken along the value.

    Parameters
    ----------
    at : ndarray, shape (n,)
        Rising moments.
    shares : ndarray, shape (n,)
        Values on the scale that they are interpolated in.
    tolerance : float
        Largest deviation, in the unit of ``shares``.
    """
    kept = {0, len(at) - 1}
    ahead = [(0, len(at) - 1)]
    while ahead:
        a, b = ahead.pop()
        if b - a < 2:
            continue
        straight = np.interp(at[a : b + 1], at[[a, b]], shares[[a, b]])
        off = np.abs(shares[a : b + 1] - straight)
        worst = int(np.argmax(off))
        if off[worst] > tolerance:
            kept.add(a + worst)
            ahead += [(a, a + worst), (a + worst, b)]
    return sorted(kept)


def value_at(curve: Curve, place: int, sample_rate: int) -> float:
    """A curve's value at one sample of its owner, on its way from a held one included."""
    return float(curve.values(place, 1, sample_rate)[0])
