"""What is repeated a lot is repeated less every time, and all of it in the long tests."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import product
from typing import Any

import pytest


def thinned(cases: Iterable[Any], every: int) -> list[Any]:
    """Cases for ``parametrize``, one in so many of them each time.

    Parameters
    ----------
    cases : iterable
        Of the same kind: what one of them finds, its neighbours would most likely find as well.
    every : int
        The first one and each so many after it are tried each time; the others are ``long``.
    """
    return [case if k % every == 0 else _long(case) for k, case in enumerate(cases)]


def in_turn(first: Iterable[Any], second: Sequence[Any]) -> list[Any]:
    """Cases for two parameters: every first with one of the second each time, taken in turn, and
    with all of them in the long tests."""
    cases = product(enumerate(first), enumerate(second))
    return [
        (one, other) if k % len(second) == n else _long((one, other))
        for (k, one), (n, other) in cases
    ]


def _long(case: Any) -> Any:
    values = case if isinstance(case, tuple) else (case,)
    return pytest.param(*values, marks=pytest.mark.long)
