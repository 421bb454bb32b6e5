"""A hand that turns a control while the reel plays, and how soon that is heard."""

from __future__ import annotations

import base64
import math
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from playwright.sync_api import Page

Floats = NDArray[np.float64]
WINDOW = 240
"""Samples over which a level is taken."""
QUANTUM = 128
"""Samples that pass at a time."""
STAYS = 5
"""Windows for which a level is beyond the middle, so that it counts as having got there: where one
sound gives way to another, they may cancel each other for a moment."""
Part = Literal["all", "high", "left", "pitch"]
EVENTS = """() => {
  const listens = window.__hand !== undefined;
  window.__hand = [];
  if (listens) return;
  window.addEventListener('pointermove', (e) => {
    window.__hand.push([e.timeStamp, e.clientX, e.clientY]);
  }, true);
  window.addEventListener('mousemove', (e) => {
    window.__hand.push([e.timeStamp, e.clientX, e.clientY]);
  }, true);
  window.addEventListener('keydown', (e) => window.__hand.push([e.timeStamp, 0, 0]), true);
}"""

STEP = "(window.__hand.findLast(([, x, y]) => x === 0 && y === 0) ?? window.__hand[0])[0]"
"""What is typed is kept with its last key; a pointer that stands has moves of its own after it."""


@dataclass
class Take:
    """What a hand did and what was heard meanwhile.

    Parameters
    ----------
    moved : ndarray, shape (n, 3)
        Times of events in ms, and where the pointer was.
    times, levels : ndarray
        Middles of short windows of sound in ms, by the same clock, and their levels in dB.
    states : int
        States of the reel that were handed to the player.
    starved : int
        Reports that there was nothing to play.
    """

    moved: Floats
    times: Floats
    levels: Floats
    states: int
    starved: int


def take(page: Page, act: Callable[[], None], of: Part = "all") -> Take:
    """Listen while a hand acts, to all of the sound, the upper end of it, or the left side; or to
    the pitch of a tone, of which the upper end is told in dB of all, however loud it is."""
    page.evaluate(EVENTS)
    page.evaluate("() => { window.__tap.take(); window.__tap.states = window.__tap.starved = 0; }")
    page.wait_for_timeout(100)
    act()
    page.wait_for_timeout(400)
    # All of it at one moment: sound goes on coming.
    whens, sent, states, starved, moved = page.evaluate(
        "() => { const t = window.__tap; "
        "return [t.whens, t.take(), t.states, t.starved, window.__hand]; }"
    )
    rows = np.frombuffer(base64.b64decode(sent), np.float32)
    sound = rows.reshape(-1, 4)[:, 2:].astype(np.float64)
    upper = np.diff(sound, n=2, axis=0)
    levels = {
        "all": lambda: _levels(sound),
        "high": lambda: _levels(upper),
        "left": lambda: _levels(sound[:, :1]),
        "pitch": lambda: _levels(upper) - _levels(sound[: len(upper)]),
    }[of]()
    passed = ((np.arange(len(levels)) + 0.5) * WINDOW).astype(int) // QUANTUM
    times = np.asarray(whens)[passed]
    return Take(np.array(moved, dtype=float), times, levels, states, starved)


def _levels(sound: Floats) -> Floats:
    """Levels of short windows in dB."""
    count = len(sound) // WINDOW
    power = np.mean(sound[: count * WINDOW].reshape(count, -1) ** 2, axis=1)
    return np.asarray(10 * np.log10(power + 1e-12))


def followed(hand: Take, value: Callable[[Floats], Floats]) -> tuple[float, float]:
    """How well the sound follows the hand: the best correlation, and the lag in ms at which.

    ``value`` says from positions of the pointer what the level should be, but for a constant.
    """
    t = hand.moved[:, 0]
    wanted = value(hand.moved)
    inside = (hand.times > t[0] + 300) & (hand.times < t[-1] + 250)
    times, heard = hand.times[inside], hand.levels[inside]
    best = (-1.0, 0.0)
    for lag in range(0, 400, 5):
        here = np.interp(times - lag, t, wanted)
        r = float(np.corrcoef(here, heard)[0, 1])
        best = max(best, (r, float(lag)))
    return best


def latencies(hand: Take, steps: list[float]) -> list[float]:
    """Milliseconds from each step of the hand to the moment at which the sound has followed.

    A step has been heard where the level crosses the middle between what it was before and what it
    is once it has settled, and stays beyond it.
    """
    found = []
    for began, until in zip(steps, [*steps[1:], steps[-1] + 600], strict=True):
        before = np.median(hand.levels[(hand.times > began - 150) & (hand.times < began)])
        after = np.median(hand.levels[(hand.times > until - 180) & (hand.times < until)])
        if abs(after - before) < 3:
            continue
        here = (hand.times >= began) & (hand.times < until)
        share = (hand.levels[here] - before) / (after - before)
        beyond = np.append(share > 0.5, np.ones(STAYS, dtype=bool))
        over = np.flatnonzero([beyond[k : k + STAYS].all() for k in range(share.size)])
        found.append(float(hand.times[here][over[0]] - began) if over.size else 1000.0)
    return found


def at_every_frame(
    page: Page, place: Callable[[float], tuple[float, float]], seconds: float
) -> None:
    """Move the pointer at every frame of the screen, to where ``place`` says for each moment."""
    began = time.perf_counter()
    due = began
    while (now := time.perf_counter()) < began + seconds:
        page.mouse.move(*place(now - began))
        due += 1 / 60
        time.sleep(max(0.0, due - time.perf_counter()))


def sine(x: float, y: float, wide: float = 0.0, high: float = 0.0, period: float = 1.6) -> Any:
    """A place that swings around another one."""

    def place(t: float) -> tuple[float, float]:
        swing = math.sin(2 * math.pi * t / period)
        return x + wide * swing, y + high * swing

    return place


def stepping(page: Page, places: list[tuple[float, float]], apart: float, seed: int) -> list[float]:
    """Jump from place to place; when each jump was, as by :func:`acting`."""
    jumps = [lambda place=place: page.mouse.move(*place) for place in places]
    return acting(page, jumps, apart, seed)


def acting(page: Page, acts: list[Callable[[], None]], apart: float, seed: int) -> list[float]:
    """Do one thing after another, at times that drift against any grid.

    Returns
    -------
    list of float
        When the page had the event of each, in ms: the first of the pointer, or the last key.
    """
    rng = np.random.default_rng(seed)
    times = []
    for act in acts:
        page.evaluate("window.__hand.length = 0")
        act()
        page.wait_for_function("window.__hand.length > 0")
        times.append(float(page.evaluate(STEP)))
        page.wait_for_timeout(1000 * apart + rng.uniform(0, 100))
    return times
