"""Python looks for what has gone while nobody waits for sound, and not in the middle of a turn."""

from __future__ import annotations

import asyncio
import gc
import random
import threading
import weakref
from collections.abc import Iterator

import pytest
from asgiref.testing import ApplicationCommunicator

from bathyphon.server import asgi
from bathyphon.server import tidying as module
from bathyphon.server.sound.turns import Kind, Turns
from bathyphon.server.tidying import ENOUGH_YOUNG, LONG_REST_SECONDS, SHORT_REST_SECONDS, Tidying


class Clock:
    def __init__(self) -> None:
        self.now = 100.0

    def __call__(self) -> float:
        return self.now


class Circle:
    def __init__(self) -> None:
        self.itself = self


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def tidying(clock: Clock, monkeypatch: pytest.MonkeyPatch) -> Iterator[Tidying]:
    """One whose process looks at nothing by itself, as one that is busy does."""
    made = Tidying(clock)
    monkeypatch.setattr(module, "tidying", made)
    monkeypatch.setattr("bathyphon.server.sound.turns.tidying", made)
    was = gc.get_threshold()
    gc.collect()
    gc.set_threshold(1000, 10**6, 10**6)
    yield made
    gc.set_threshold(*was)
    gc.unfreeze()


def circles() -> list[weakref.ref[Circle]]:
    """Many that have gone, among much that stays, old enough not to be found among what is new."""
    gone = [Circle() for _ in range(100)]
    kept = [[k] for k in range(1000 * (ENOUGH_YOUNG + 2))]
    refs = [weakref.ref(c) for c in gone]
    assert len(kept) > 0
    return refs


@pytest.mark.parametrize("seed", [1, 2])
def test_a_hand_that_never_rests_is_never_made_to_wait(
    tidying: Tidying, clock: Clock, seed: int
) -> None:
    rng = random.Random(seed)
    turns = Turns(2)
    gone = circles()
    looked: list[int] = []

    def look(phase: str, info: dict[str, int]) -> None:
        looked.append(info["generation"])

    gc.callbacks.append(look)
    try:
        for _ in range(100):
            with turns.taken(Kind.AT_ONCE, lambda: True):
                clock.now += rng.uniform(0, 0.1)
                assert tidying.tidy() is None
            clock.now += rng.uniform(0, 0.9 * SHORT_REST_SECONDS)
            assert tidying.tidy() is None
    finally:
        gc.callbacks.remove(look)
    assert set(looked) <= {0}
    assert any(ref() is not None for ref in gone)


def test_at_the_next_rest_what_has_gone_is_found(tidying: Tidying, clock: Clock) -> None:
    with tidying.work(at_once=True):
        gone = circles()
    clock.now += 1.01 * SHORT_REST_SECONDS
    assert tidying.tidy() == 1
    assert all(ref() is None for ref in gone)
    assert tidying.tidy() is None, "there is nothing new to look through"


def test_while_something_is_worked_out_there_is_no_rest(tidying: Tidying, clock: Clock) -> None:
    turns = Turns(2)
    with turns.taken(Kind.SOON, lambda: True):
        circles()
        clock.now += 2 * LONG_REST_SECONDS
        assert tidying.tidy() is None
    # Nobody's hand is at work: what comes next can wait for a moment.
    assert tidying.tidy() == 1


def test_a_long_rest_is_for_all_and_only_once(tidying: Tidying, clock: Clock) -> None:
    circle = Circle()
    gc.collect()
    gc.freeze()
    gone = weakref.ref(circle)
    del circle
    with tidying.work(at_once=False):
        circles()
    clock.now += 1.01 * LONG_REST_SECONDS
    assert tidying.tidy() == 2
    assert gone() is None, "what was set aside is looked through, too"
    gc.disable()
    try:
        assert tidying.tidy() is None
    finally:
        gc.enable()


@pytest.mark.parametrize("windows", [1, 16])
def test_what_nobody_waits_for_is_no_reason_to_put_it_off(
    tidying: Tidying, clock: Clock, windows: int
) -> None:
    """Findings may be worked out for minutes, and stand aside for most of them."""
    with Turns(2 * windows).taken(Kind.LONG, lambda: True):
        for _ in range(windows):
            with Turns(2).taken(Kind.AT_ONCE, lambda: True):
                gone = circles()
                assert tidying.tidy() is None
        clock.now += 1.01 * SHORT_REST_SECONDS
        assert tidying.tidy() == 1
        assert all(ref() is None for ref in gone)


@pytest.mark.parametrize("stopped_soon", [False, True])
def test_it_begins_with_the_server_and_not_with_one_that_has_ended(
    monkeypatch: pytest.MonkeyPatch, stopped_soon: bool
) -> None:
    begun = threading.Event()
    monkeypatch.setattr(asgi, "FIRST_ANSWERS_SECONDS", 0.3 if stopped_soon else 0.0)
    monkeypatch.setattr(asgi.tidying, "begin", begun.set)

    async def live() -> bool:
        server = ApplicationCommunicator(asgi.application, {"type": "lifespan"})
        await server.send_input({"type": "lifespan.startup"})
        assert (await server.receive_output())["type"] == "lifespan.startup.complete"
        before = False if stopped_soon else await asyncio.to_thread(begun.wait, 20)
        await server.send_input({"type": "lifespan.shutdown"})
        assert (await server.receive_output())["type"] == "lifespan.shutdown.complete"
        return before or await asyncio.to_thread(begun.wait, 1)

    assert asyncio.run(live()) is not stopped_soon
