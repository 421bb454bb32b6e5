"""What columns hold, at any place of a reel, however they are asked for."""

from fractions import Fraction

import numpy as np
import pytest

from bathyphon.core.analysis.average import average_of
from bathyphon.core.analysis.bands import edges_of, middles_of
from bathyphon.core.analysis.kind import MISSING, Settings
from bathyphon.core.analysis.kinds import KINDS
from bathyphon.core.analysis.spot import spot_of
from bathyphon.core.analysis.tiles import COLUMNS, STEPS, Tiles
from bathyphon.core.engine.keys import Superseded
from bathyphon.core.errors import Refused
from bathyphon.core.listen.judge import survey_of
from bathyphon.core.measure.tally import TRUE_PEAK, WEIGHTED, tally
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document, effect, noise, rendered, treatment

RATE = 48000
TENTH = Fraction(10)


def surveyed(doc, media):
    return survey_of(doc, read_reel(doc), media)


def of_sound(sound, rate=RATE):
    """A reel that plays a sound and nothing else."""
    media = Memory(m1=sound.astype(np.float32))
    return surveyed(document(sound.shape[1], rate=rate), media)


def columns(survey, kind, step, of="mix", side="after", settings=None, start=0, stop=None):
    """Columns as they are shown."""
    tiles = Tiles(spot_of(survey, of, side), KINDS[kind], settings or Settings(), {})
    stop = survey.length if stop is None else stop
    return KINDS[kind].shown(tiles.columns(start, stop, Fraction(step))[0])


def film(seed):
    """A treated reel with silence, a late clip and a tail past its end."""
    rng = np.random.default_rng(seed)
    length = int(rng.integers(2 * RATE, 5 * RATE))
    start = int(rng.integers(0, RATE))
    span = treatment(start + RATE // 3, RATE, effect("muffle"), effect("echo", feedback=40))
    doc = document(length, clip={"start": start}, treatments=[span])
    return doc, Memory(m1=noise(length, seed))


def test_tones_have_their_own_level_and_place_on_either_axis():
    t = np.arange(3 * RATE) / RATE
    hz, level = 1234.0, -20.0
    tone = 10 ** (level / 20) * np.sqrt(2) * np.sin(2 * np.pi * hz * t)
    survey = of_sound(np.stack([tone, tone]))
    for axis in ("log", "mel"):
        for sharp in ("time", "both", "pitch"):
            found = columns(survey, "spectrum", 50, settings=Settings(axis, sharp), start=RATE,
                            stop=2 * RATE)  # fmt: skip
            loudest = middles_of(axis, RATE)[found.mean(axis=0).argmax()]
            assert loudest == pytest.approx(hz, rel=0.03)
            # All bands together have the level of the sound.
            assert 10 * np.log10((10 ** (found / 10)).sum(axis=1)) == pytest.approx(level, abs=0.05)


@pytest.mark.parametrize("rate", [22050, 44100, 48000, 96000])
def test_bands_reach_from_below_what_is_heard_to_what_a_rate_can_hold(rate):
    for axis in ("log", "mel"):
        edges = edges_of(axis, rate)
        assert np.all(np.diff(edges) > 0)
        assert edges[0] <= 20.0
        assert 0.48 * min(rate, 40960) < edges[-1] <= 0.5 * rate
    octave = middles_of("log", rate)[24] / middles_of("log", rate)[0]
    assert octave == pytest.approx(2.0)


@pytest.mark.parametrize(("seed", "rate"), [(0, 48000), (1, 44100), (2, 22050), (3, 96000)])
@pytest.mark.parametrize("step", [50, 200])
def test_a_waveform_is_that_of_the_render(seed, rate, step):
    """At rates, too, that no column divides."""
    doc, media = film(seed)
    doc["sample_rate"] = rate
    mix = rendered(doc, media).astype(np.float64)
    found = columns(surveyed(doc, media), "wave", step)
    for k in (0, 7, len(found) // 2, mix.shape[1] * step // rate - 1):
        part = mix[:, k * rate // step : (k + 1) * rate // step]
        expected = [part.min(), part.max(), np.sqrt(np.mean(part**2))]
        assert found[k] == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize(("seed", "rate"), [(0, 48000), (1, 44100), (2, 96000)])
def test_loudness_of_each_moment_is_that_of_the_render(seed, rate):
    doc, media = film(seed)
    doc["sample_rate"] = rate
    rows = tally(rendered(doc, media), rate)
    found = columns(surveyed(doc, media), "loudness", 10)
    for k in range(len(rows) - 1):
        for value, hops in zip(found[k][:2], (4, 30), strict=True):
            power = rows[max(0, k - hops + 1) : k + 1, WEIGHTED].sum() / hops
            expected = max(-120.0, -0.691 + 10 * np.log10(max(power, 1e-20)))
            assert value == pytest.approx(expected, abs=0.01)
        assert found[k][2] == pytest.approx(20 * np.log10(max(rows[k, TRUE_PEAK], 1e-6)), abs=0.02)


@pytest.mark.parametrize("place", [-1.0, -0.5, 0.0, 0.25, 1.0])
def test_a_sound_is_seen_where_it_is_panned(place):
    mono = noise(2 * RATE, 3)[0].astype(np.float64)
    angle = (place + 1) * np.pi / 4
    found = columns(of_sound(np.stack([mono * np.cos(angle), mono * np.sin(angle)])), "stereo", 10)
    rows = np.asarray(KINDS["stereo"].rows(Settings(), RATE))
    assert rows[found[5, : rows.size].argmax()] == pytest.approx(100 * place, abs=2.6)
    together = 10 * np.log10((10 ** (found[5:15, : rows.size] / 10)).sum(axis=1)).mean()
    assert together == pytest.approx(10 * np.log10(0.5 * np.mean(mono**2)), abs=0.2)


@pytest.mark.parametrize("likeness", [-1.0, -0.3, 0.0, 0.8, 1.0])
def test_both_sides_agree_as_far_as_they_do(likeness):
    a, b = np.random.default_rng(4).standard_normal((2, RATE)) * 0.1
    sides = np.stack([a, likeness * a + np.sqrt(1 - likeness**2) * b]).astype(np.float32)
    found = columns(of_sound(sides), "stereo", 2)[:, -1]
    for k, value in enumerate(found):
        part = sides[:, k * RATE // 2 : (k + 1) * RATE // 2].astype(np.float64)
        expected = (part[0] @ part[1]) / np.sqrt((part[0] @ part[0]) * (part[1] @ part[1]))
        assert value == pytest.approx(100 * expected, abs=0.01)


def test_a_melody_has_its_notes_and_a_rustle_has_none():
    t = np.arange(RATE) / RATE
    notes = [57.0, 60.5]
    tones = [0.2 * np.sin(2 * np.pi * 440 * 2 ** ((n - 69) / 12) * t) for n in notes]
    rustle = 0.1 * np.random.default_rng(5).standard_normal(RATE)
    mono = np.concatenate([*tones, rustle])
    found = columns(of_sound(np.stack([mono, mono])), "pitch", 10)[:, 0]
    assert found[1:9] == pytest.approx(notes[0], abs=0.05)
    assert found[11:19] == pytest.approx(notes[1], abs=0.05)
    assert np.isnan(found[21:29]).all()


@pytest.mark.parametrize("seed", range(3))
def test_before_and_after_are_what_goes_in_and_what_comes_out(seed):
    doc, media = film(seed)
    survey = surveyed(doc, media)
    bare, whole = (rendered(doc, media, treated) for treated in (False, True))
    n = survey.length
    for of, before in (("mix", bare), ("track:t1", bare), ("treatment:f1", bare)):
        for side, expected in (("before", before), ("after", whole)):
            sound = spot_of(survey, of, side).sound(0, n)
            np.testing.assert_allclose(sound[:, : expected.shape[1]], expected, atol=2e-7)
    clip = spot_of(survey, "clip:c1")
    np.testing.assert_allclose(clip.sound(0, n), spot_of(survey, "mix", "before").sound(0, n),
                               atol=2e-7)  # fmt: skip
    assert (clip.start, clip.stop) == (doc["tracks"][0]["clips"][0]["start"], clip.node.ends)
    assert spot_of(survey, "treatment:f1").ends > spot_of(survey, "treatment:f1").stop
    assert not spot_of(survey, "mix").sound(-500, 0).any()


@pytest.mark.parametrize("of", ["clip:no", "treatment:no", "track:no", "mixer", ""])
def test_what_is_not_there_cannot_be_looked_at(of):
    doc, media = film(1)
    with pytest.raises(Refused, match="there is no"):
        spot_of(surveyed(doc, media), of)


@pytest.mark.parametrize("kind", KINDS)
def test_tiles_are_the_columns_one_after_another(kind):
    doc, media = film(2)
    survey = surveyed(doc, media)
    look = KINDS[kind]
    kept = {}
    tiles = Tiles(spot_of(survey, "mix"), look, Settings(), kept)
    for step in STEPS:
        if step > look.finest:
            continue
        tile = tiles.tile(step, 0)
        assert tile.share == 1.0
        assert tile.values.shape == (COLUMNS, look.width(Settings(), RATE))
        seconds = tiles.seconds(step, 0)
        if step >= 2:
            expected = look.written(tiles.columns(0, len(seconds) * RATE, step)[0])
            n = min(COLUMNS, len(expected))
            assert np.array_equal(tile.values[:n], expected[:n])
        known = int(np.ceil(len(seconds) * step))
        assert (tile.values[known:] == MISSING).all()
    # Nothing is worked out twice, and what is asked for beyond the end is empty.
    before = dict(kept)
    tiles.tile(Fraction(2), 0)
    assert kept.keys() == before.keys()
    assert (tiles.tile(Fraction(2), 5).values == MISSING).all()


def test_coarse_columns_hold_what_fine_ones_do():
    doc, media = film(3)
    survey = surveyed(doc, media)
    tiles = Tiles(spot_of(survey, "mix"), KINDS["spectrum"], Settings(), {})
    fine, coarse = tiles.tile(Fraction(2), 0).values, tiles.tile(Fraction(1, 2), 0).values
    power = 10 ** (fine[:4].astype(float) / 1000)
    assert coarse[0] == pytest.approx(1000 * np.log10(power.mean(axis=0)), abs=1.0)
    wave = Tiles(spot_of(survey, "mix"), KINDS["wave"], Settings(), {})
    fine, coarse = wave.tile(Fraction(10), 0).values, wave.tile(Fraction(2), 0).values
    assert coarse[1, 1] == fine[5:10, 1].max()
    assert coarse[1, 0] == fine[5:10, 0].min()


def test_what_is_late_comes_with_the_next_question():
    doc, media = film(4)
    tiles = Tiles(spot_of(surveyed(doc, media), "mix"), KINDS["spectrum"], Settings(), {})
    first = tiles.tile(Fraction(2), 0, late=lambda: True)
    assert 0 < first.share < 1
    whole = tiles.tile(Fraction(2), 0)
    assert whole.share == 1.0
    assert np.array_equal(first.values[:2], whole.values[:2])
    assert (first.values[2:] == MISSING).all()


def test_an_edit_elsewhere_leaves_what_is_known():
    doc, media = film(5)
    survey = surveyed(doc, media)
    kept = {}
    tiles = Tiles(spot_of(survey, "mix"), KINDS["spectrum"], Settings(), kept)
    name, _ = tiles.name(Fraction(200), 0), tiles.tile(Fraction(2), 0)
    many = len(kept)
    late = survey.after(
        {"kind": "set_effect", "owner": "treatment:f1", "id": "e0", "params": {"high_cut_hz": 400}}
    )
    after = Tiles(spot_of(late, "track:t1", "before"), KINDS["spectrum"], Settings(), kept)
    bare = Tiles(spot_of(late, "mix"), KINDS["spectrum"], Settings(), kept)
    # Before the treatment begins all is as it was.
    begins = doc["tracks"][0]["treatments"][0]["start"] // RATE
    if begins >= 2:
        assert bare.name(Fraction(200), 0) == name
    bare.tile(Fraction(2), 0)
    assert many < len(kept) < 2 * many + 1
    after.tile(Fraction(2), 0)


def test_who_does_not_wait_is_not_served():
    doc, media = film(6)
    survey = survey_of(doc, read_reel(doc), media, wanted=lambda: False)
    tiles = Tiles(spot_of(survey, "mix"), KINDS["wave"], Settings(), {})
    with pytest.raises(Superseded):
        tiles.tile(TENTH, 0)


@pytest.mark.parametrize("seconds", [3, 30])
def test_an_average_is_that_of_the_power(seconds):
    survey = of_sound(noise(seconds * RATE, 7))
    tiles = Tiles(spot_of(survey, "mix"), KINDS["spectrum"], Settings(), {})
    half, share = average_of(tiles, 0, seconds * RATE, late=lambda: True)
    assert share == pytest.approx(1 / seconds)
    assert half.shape == (240,)
    levels, share = average_of(tiles, 0, seconds * RATE)
    assert share == 1.0
    # White noise: as much in each Hz, up to where the bands end.
    edges = edges_of("log", RATE)
    expected = -20.0 + 10 * np.log10(edges[-1] / (RATE / 2))
    assert 10 * np.log10((10 ** (levels / 10)).sum()) == pytest.approx(expected, abs=0.1)
    density = levels[150:] - 10 * np.log10(np.diff(edges)[150:])
    assert np.ptp(density) < 1.5
