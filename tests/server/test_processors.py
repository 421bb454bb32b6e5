"""Turns at the processors: who goes first, who is never left out, and how a wait ends."""

import random
import threading
import time

import pytest

from bathyphon.core.engine.keys import Superseded
from bathyphon.server.sound import turns as module
from bathyphon.server.sound.turns import Kind, Turns


@pytest.fixture(autouse=True)
def nobody_is_held_up(monkeypatch):
    """However slow the machine is just now, nobody has had the longest turn, or a long one."""
    monkeypatch.setattr(module, "LONGEST_TURN_SECONDS", 1e9)
    monkeypatch.setattr(module, "BRIEF_SECONDS", 1e9)


class Someone:
    """Work that goes on for as long as it is told to."""

    def __init__(self, turns, kind, steps=10**9, pause=0.001, later=lambda: False):
        self.turns, self.kind, self.steps, self.pause = turns, kind, steps, pause
        self.later = later
        self.done, self.wanted, self.superseded = 0, True, False
        self.began = self.finished = None
        self.thread = threading.Thread(target=self.work, daemon=True)
        self.thread.start()

    def work(self):
        try:
            with self.turns.taken(self.kind, lambda: self.wanted, self.later) as going_on:
                self.began = time.monotonic()
                while self.done < self.steps and going_on():
                    time.sleep(self.pause)
                    self.done += 1
                self.finished = time.monotonic()
        except Superseded:
            self.superseded = True

    def end(self):
        self.wanted = False
        self.thread.join(60)
        assert not self.thread.is_alive()


def until(true, seconds=60.0):
    end = time.monotonic() + seconds
    while not true():
        assert time.monotonic() < end
        time.sleep(0.001)


def test_what_is_heard_at_once_goes_between_two_steps_of_what_takes_long():
    turns = Turns(2)
    long = [Someone(turns, Kind.LONG) for _ in range(4)]
    until(lambda: sum(one.done > 3 for one in long) == 2)
    soon = Someone(turns, Kind.AT_ONCE, steps=5)
    soon.thread.join(60)
    assert soon.done == 5
    # Those that had waited for a place still wait, in their order.
    assert [one.done > 0 for one in long].count(True) == 2
    for one in long:
        one.end()


def test_no_more_work_at_a_time_than_there_are_places():
    turns, at_work, most = Turns(3), 0, 0
    lock = threading.Lock()

    def work(kind, steps):
        nonlocal at_work, most
        with turns.taken(kind, lambda: True) as going_on:
            for _ in range(steps):
                going_on()
                with lock:
                    at_work += 1
                    most = max(most, at_work)
                time.sleep(0.0005)
                with lock:
                    at_work -= 1

    drawn = random.Random(4)
    threads = [
        threading.Thread(target=work, args=(drawn.choice(list(Kind)), drawn.randrange(1, 30)))
        for _ in range(40)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
        assert not thread.is_alive()
    assert most == 3


def test_however_much_is_heard_at_once_the_rest_goes_on():
    turns = Turns(2)
    hasty = [Someone(turns, Kind.AT_ONCE) for _ in range(5)]
    patient = Someone(turns, Kind.LONG, steps=20)
    patient.thread.join(60)
    assert patient.done == 20
    for one in hasty:
        one.end()


@pytest.mark.parametrize("kind", [Kind.SOON, Kind.LONG])
def test_what_takes_long_is_whole_before_the_next_begins(kind):
    """In turns of a step each all would end together, and late."""
    turns = Turns(2)
    all_of_them = [Someone(turns, kind, steps=20) for _ in range(8)]
    for one in all_of_them:
        one.thread.join(60)
    for late in all_of_them:
        at_work = [one for one in all_of_them if one.began <= late.began < one.finished]
        assert len(at_work) <= 2


def test_what_turns_out_to_take_long_lets_what_is_short_go_first(monkeypatch):
    monkeypatch.setattr(module, "BRIEF_SECONDS", 1.0)
    turns = Turns(2)
    endless = [Someone(turns, Kind.SOON) for _ in range(2)]
    until(lambda: all(one.done for one in endless))
    time.sleep(1.5)
    short = Someone(turns, Kind.SOON, steps=5)
    short.thread.join(60)
    assert short.done == 5
    for one in endless:
        one.end()


def test_nobody_holds_a_place_for_ever(monkeypatch):
    monkeypatch.setattr(module, "LONGEST_TURN_SECONDS", 0.05)
    turns = Turns(2)
    endless = [Someone(turns, Kind.LONG) for _ in range(2)]
    until(lambda: all(one.done for one in endless))
    late = Someone(turns, Kind.LONG, steps=10)
    late.thread.join(60)
    assert late.done == 10
    for one in endless:
        one.end()


@pytest.mark.parametrize("kind", list(Kind))
def test_who_is_no_longer_wanted_leaves_the_queue_and_frees_its_place(kind):
    turns = Turns(2)
    endless = [Someone(turns, Kind.AT_ONCE), Someone(turns, Kind.LONG)]
    until(lambda: all(one.done for one in endless))
    waiting = Someone(turns, kind)
    if kind is not Kind.SOON:
        time.sleep(0.05)
        assert waiting.began is None
    waiting.end()
    assert waiting.superseded or waiting.began
    endless[0].end()
    next_one = Someone(turns, Kind.AT_ONCE, steps=3)
    next_one.thread.join(60)
    assert next_one.done == 3
    endless[1].end()


@pytest.mark.parametrize("wanted", [True, False])
def test_who_had_better_wait_leaves_the_place_to_others_and_goes_on_later(wanted):
    turns, hand = Turns(2), threading.Event()
    waits = [Someone(turns, Kind.LONG, later=hand.is_set) for _ in range(2)]
    until(lambda: all(one.done for one in waits))
    hand.set()
    other = Someone(turns, Kind.LONG, steps=20)
    other.thread.join(60)
    assert other.done == 20
    until(lambda: not turns._working)
    done = [one.done for one in waits]
    time.sleep(0.3)
    assert [one.done for one in waits] == done
    for one in waits:
        one.wanted = wanted
    if wanted:
        hand.clear()
        until(lambda: all(one.done > before for one, before in zip(waits, done, strict=True)))
    for one in waits:
        one.end()


def test_a_fault_frees_its_place():
    turns = Turns(2)
    for _ in range(5):
        with pytest.raises(ZeroDivisionError), turns.taken(Kind.LONG, lambda: True):
            raise ZeroDivisionError
    done = Someone(turns, Kind.LONG, steps=1)
    done.thread.join(60)
    assert done.done == 1


def test_a_fault_while_it_waits_leaves_no_ghost_in_the_queue():
    turns = Turns(2)
    endless = [Someone(turns, Kind.LONG) for _ in range(2)]
    until(lambda: all(one.done for one in endless))

    def broken():
        raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError), turns.taken(Kind.LONG, broken):
        pass
    for one in endless:
        one.end()
    # Both places are free again, for two at once.
    both = [Someone(turns, Kind.LONG) for _ in range(2)]
    until(lambda: all(one.done for one in both))
    for one in both:
        one.end()
