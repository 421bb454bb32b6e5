"""Cuts against footage whose cuts are known.

Bounds from the project's own goals; no published source. Hard cuts count only on their frame. The
cases of every day were chosen once; the long ones are drawn anew each time, and judged by rates.
"""

import os
from concurrent.futures import ProcessPoolExecutor
from itertools import chain

import numpy as np
import pytest

from bathyphon.core.measure.shots import find_cuts
from footage import DEVELOPED, OUTSIDE, Scene, edited, flashed, montage

# Turn 3 of these was once found to have a cut at frame 51, within a flash of a pan.
FLASHES, FILMS, MONTAGES, DRAWINGS = 546312011, 546312011, 99, 546312011


def cuts_of(frames, fps):
    frames = np.clip(frames, 0, 255).astype(np.uint8)
    return list(find_cuts([frames[i : i + 250] for i in range(0, len(frames), 250)], fps))


def drawn(seed, turn):
    """Half of the footage is made in ways that the finder was not developed on."""
    rng = np.random.default_rng([seed, turn])
    ways = (DEVELOPED, OUTSIDE)[turn % 2]
    return rng, ways, float(rng.choice(ways.rates))


def judged_film(seed, turn):
    """Hard cuts found, invented and missed; soft ones found and made."""
    rng, ways, fps = drawn(seed, turn)
    made = edited(rng, fps, 16, ways)
    found = cuts_of(made.frames, fps)
    met = sum(
        any(c.kind == kind and abs(c.frame - first - length / 2) <= length / 2 for c in found)
        for first, length, kind in made.soft
    )
    return *judged(found, made.hard), met, len(made.soft)


def judged(found, true):
    hard = {c.frame for c in found if c.kind == "hard"}
    return len(hard & set(true)), len(hard - set(true)), len(set(true) - hard)


def judged_montage(seed, turn):
    rng, ways, fps = drawn(seed, turn)
    made = montage(rng, fps, ways)
    return judged(cuts_of(made.frames, fps), made.hard)


def cuts_within(seed, turn):
    """The cuts that are found in one shot, that may pan, with flashes in it."""
    rng, ways, fps = drawn(seed, 50 + turn)
    body = Scene(rng, ways=ways).shoot(rng, 150, (0.0, float(rng.choice([0.0, 0.3, 0.8]))))
    return [(turn, c.kind, c.frame) for c in cuts_of(flashed(rng, body, fps, ways), fps)]


def f1(right, wrong, missed):
    return 2 * right / (2 * right + wrong + missed)


def test_hard_cuts_exact_to_the_frame_and_soft_ones_marked():
    *hard, met, soft = np.sum([judged_film(FILMS, turn) for turn in range(6)], axis=0)
    assert f1(*hard) >= 0.985, hard
    assert met >= 0.95 * soft


@pytest.mark.parametrize("turns", [35, pytest.param(70, marks=pytest.mark.long)])
def test_pans_and_flashes_are_no_cuts(turns):
    assert [cut for turn in range(turns) for cut in cuts_within(FLASHES, turn)] == []


def test_montages_of_shots_of_three_to_six_frames():
    hard = np.sum([judged_montage(MONTAGES, turn) for turn in range(8)], axis=0)
    assert f1(*hard) >= 0.9, hard


@pytest.fixture(scope="module")
def fresh():
    """Judges a kind of footage that nobody has seen, so many times, on all processors."""
    seed = int.from_bytes(os.urandom(4), "little")
    print("seed", seed)
    with ProcessPoolExecutor() as pool:
        yield lambda judge, times: pool.map(judge, [seed] * times, range(times), chunksize=8)


@pytest.mark.long
def test_hard_cuts_of_two_thousand_films(fresh):
    *hard, met, soft = np.sum(list(fresh(judged_film, 2000)), axis=0)
    assert f1(*hard) >= 0.985, hard
    assert met >= 0.95 * soft


@pytest.mark.long
def test_less_than_one_in_a_thousand_shots_with_flashes_or_pans_is_cut(fresh):
    shots = 10_000
    found = list(chain.from_iterable(fresh(cuts_within, shots)))
    assert len(found) < shots / 1000, found


@pytest.mark.long
def test_of_montages_nine_in_ten(fresh):
    hard = np.sum(list(fresh(judged_montage, 500)), axis=0)
    assert f1(*hard) >= 0.9, hard


def test_films_of_no_and_one_frame():
    assert list(find_cuts([], 25.0)) == []
    assert list(find_cuts([np.zeros((1, 36, 64, 3), np.uint8)], 25.0)) == []


def test_drawings_held_for_several_frames_are_no_cuts():
    for hold in (2, 3, 4):
        rng = np.random.default_rng([DRAWINGS, 90 + hold])
        parts, cuts = [], []
        for _ in range(6):
            scene = Scene(rng, ways=OUTSIDE)
            scene.noise = 0.0
            length = int(rng.integers(12, 24))
            angle, far = rng.uniform(0, 2 * np.pi), rng.uniform(0.3, 2.0)
            shot = scene.shoot(rng, length, (far * np.sin(angle), far * np.cos(angle)))
            parts.append(np.repeat(shot, hold, axis=0))
            cuts.append(sum(map(len, parts)))
        found = {c.frame for c in cuts_of(np.concatenate(parts), 24.0) if c.kind == "hard"}
        assert len(found & set(cuts[:-1])) == 5
        assert len(found - set(cuts)) <= 1
