"""Sounds that are computed: the same however they are cut up, as loud as each other, and whole."""

from __future__ import annotations

import numpy as np
import pyebur128
import pytest

from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.sounds.kit.stretch import Stretch
from bathyphon.core.sounds.made import make, sound_of
from bathyphon.core.sounds.shelf import SOUNDS
from thinned import thinned

BEDS = [m for m in MODELS.values() if m.kind == "bed"]
HITS = [m for m in MODELS.values() if m.kind == "hit"]


def rendered(model: str, settings: dict, seed: int = 1, seconds: float = 20.0) -> np.ndarray:
    return np.concatenate(list(sound_of(make(model, settings, seed, seconds))), axis=1)


def drawn_settings(model: str, seed: int) -> dict[str, float]:
    """Any settings that its table allows."""
    chance = np.random.default_rng(seed)
    values = {}
    for row in MODELS[model].table.parameters:
        value = chance.uniform(row.low, row.high)
        if row.choices or row.whole:
            value = float(round(value))
        values[row.id] = value
    return values


@pytest.mark.parametrize("model", BEDS, ids=lambda m: m.id)
@pytest.mark.parametrize("seed", [1, *(pytest.param(s, marks=pytest.mark.long) for s in (2, 3, 4))])
def test_a_bed_is_the_same_however_it_is_cut_up(model, seed):
    chance = np.random.default_rng(seed)
    settings = model.settings(drawn_settings(model.id, seed))
    name = f"{model.id}/{seed}"
    start = int(chance.integers(0, 600 * RATE))
    stop = start + int(chance.integers(RATE // 2, 2 * RATE))
    whole = model.sound(settings, Stretch(name, start, stop))
    cuts = np.sort(chance.integers(start + 1, stop, 2)).tolist()
    parts = [
        model.sound(settings, Stretch(name, a, b))
        for a, b in zip([start, *cuts], [*cuts, stop], strict=True)
        if a < b
    ]
    pieces = np.concatenate(parts, axis=1)
    assert pieces.shape == whole.shape
    loud = np.sqrt(np.mean(whole**2)) + 1e-9
    assert np.abs(pieces - whole).max() < 2e-4 * max(loud, np.abs(whole).max())


def of_each_model():
    """One sound of each model every time; all of them now and then."""
    seen = set()
    for sound in SOUNDS.values():
        marks = [pytest.mark.long] if sound.model.id in seen else []
        seen.add(sound.model.id)
        yield pytest.param(sound, id=sound.id, marks=marks)


@pytest.mark.parametrize("sound", list(of_each_model()))
def test_a_shipped_sound_is_as_loud_as_the_others(sound):
    made = make(sound.model.id, sound.shipped.settings, seconds=20.0)
    x = np.concatenate(list(sound_of(made)), axis=1)
    assert x.shape == (2, made.samples)
    assert np.isfinite(x).all()
    assert np.abs(x).max() <= 0.84
    padded = np.pad(x, ((0, 0), (0, max(0, RATE // 2 - x.shape[1]))))
    meter = pyebur128.R128State(2, RATE, pyebur128.MeasurementMode.MODE_I)
    meter.add_frames(np.ascontiguousarray(padded.T).ravel(), padded.shape[1])
    assert -30.0 <= pyebur128.get_loudness_global(meter) <= -24.0


@pytest.mark.parametrize("model", MODELS.values(), ids=lambda m: m.id)
@pytest.mark.parametrize("seed", thinned(range(4), 4))
def test_any_settings_give_a_sound(model, seed):
    settings = drawn_settings(model.id, 10 + seed)
    if "steps" in settings:
        settings["steps"] = min(settings["steps"], 8.0)
    x = rendered(model.id, settings, seed, 2.0)
    assert np.isfinite(x).all()
    assert 1e-4 < np.abs(x).max() <= 0.84


@pytest.mark.parametrize("model", HITS, ids=lambda m: m.id)
def test_a_hit_begins_and_ends_in_silence(model):
    for shipped in model.table.sounds[:3]:
        x = rendered(model.id, dict(shipped.settings))
        peak = np.abs(x).max()
        assert np.abs(x[:, 0]).max() < 0.02 * peak
        assert np.abs(x[:, -1]).max() < 1e-6
        # It has something to say before it is half over.
        assert np.abs(x[:, : x.shape[1] * 2 // 3]).max() > 0.3 * peak


@pytest.mark.parametrize("model", ["rain", "drips", "footsteps", "door"])
def test_another_take_is_another_sound_of_the_same_kind(model):
    one, two = rendered(model, {}, 1, 5.0), rendered(model, {}, 2, 5.0)
    same = float(np.vdot(one, two) / np.sqrt(np.vdot(one, one) * np.vdot(two, two)))
    assert abs(same) < 0.9
    assert np.array_equal(one, rendered(model, {}, 1, 5.0))


@pytest.mark.parametrize("model", thinned(BEDS, 3), ids=lambda m: m.id)
def test_a_longer_bed_begins_as_the_shorter_one(model):
    short = rendered(model.id, {}, 3, 5.5)
    long = rendered(model.id, {}, 3, 7.0)
    assert np.array_equal(short, long[:, : short.shape[1]])


@pytest.mark.parametrize("model", thinned(BEDS, 3), ids=lambda m: m.id)
def test_there_is_no_seam_where_chunks_meet(model):
    x = rendered(model.id, {}, 1, 40.0).mean(axis=0)
    hop = RATE // 50
    frames = np.lib.stride_tricks.sliding_window_view(x, 2 * hop)[:: hop // 2]
    spectra = np.log(np.abs(np.fft.rfft(frames * np.hanning(2 * hop), axis=1)) + 1e-6)
    flux = np.maximum(0, np.diff(spectra, axis=0)).sum(axis=1)
    ordinary = np.quantile(flux, 0.95)
    seams = [int((5 * k * RATE) / (hop // 2)) - 2 for k in range(1, 8)]
    # Seven places where chunks meet are like any seven places.
    assert np.median([flux[s : s + 3].max() for s in seams]) < ordinary


LASTING = {"machine", "drone", "insects", "room"}
"""Of which a while sounds like another because their tones stay; their noise is still apart."""


@pytest.mark.long
@pytest.mark.parametrize("model", BEDS, ids=lambda m: m.id)
def test_nothing_comes_back_within_ten_minutes(model):
    from scipy.signal import oaconvolve

    x = rendered(model.id, {}, 1, 600.0)[0].astype(float)
    x = x[::4]
    rate = RATE // 4
    # Long enough to hold several of what happens now and then: one drop is like another.
    piece = x[5 * rate : 20 * rate]
    found = np.abs(oaconvolve(x, piece[::-1], "valid"))
    energy = np.concatenate([[0.0], np.cumsum(x * x)])
    likeness = found / np.sqrt((energy[piece.size :] - energy[: -piece.size]) * np.sum(piece**2))
    here = np.arange(likeness.size)
    away = likeness[np.abs(here - 5 * rate) > rate]
    assert away.max() < (0.95 if model.id in LASTING else 0.6)
