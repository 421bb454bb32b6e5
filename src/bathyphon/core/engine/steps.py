"""Calling one another without end: work that would nest too deeply for Python's own stack.

A reel may hold thousands of treatments that feed one another. Work on it is written as generators
that yield the work they wait for and are sent its result; :func:`run` keeps them on a list of its
own, which may grow as long as it must.
"""

from __future__ import annotations

from collections.abc import Generator
from typing import Any, TypeVar

T = TypeVar("T")
Steps = Generator["Steps[Any]", Any, T]
"""Work that yields the work it waits for, and returns a result."""


def run(work: Steps[T]) -> T:
    """Carry out work and all that it waits for.

    Parameters
    ----------
    work : generator
        Yields other work and is sent what that returned; what that raised is raised in it.

    Returns
    -------
    object
        What the work returned.
    """
    waiting: list[Steps[Any]] = [work]
    result: Any = None
    fault: BaseException | None = None
    while True:
        try:
            if fault is None:
                ahead = waiting[-1].send(result)
            else:
                ahead = waiting[-1].throw(fault)
        except StopIteration as end:
            waiting.pop()
            result, fault = end.value, None
        except BaseException as raised:
            waiting.pop()
            result, fault = None, raised
        else:
            waiting.append(ahead)
            result, fault = None, None
        if not waiting:
            if fault is not None:
                raise fault
            return result  # type: ignore[no-any-return]
