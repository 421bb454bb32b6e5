"""What every effect keeps to, by being there: nothing here knows one of them."""

from itertools import combinations

import numpy as np
import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.reel.model import EffectPart
from bathyphon.core.reel.values import effect_curves
from bathyphon.core.timing.constants import shared_constants
from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.typed.search import find_effects
from bathyphon.core.typed.spellings import UNITS
from reels import Memory, document, noise, rendered, treatment

RATE = 48000
N = 9000
CHOICES = ("hold", "linear", "smooth", "log")


def effect_of(kind):
    """It as its example sets it, as a part of a document."""
    return {"id": "e", "kind": kind, "params": dict(EFFECTS[kind].example)}


def moving(effect, seed, longest=N):
    """Settings in which all that may move does, by chance, within its range."""
    rng = np.random.default_rng(seed)
    rows = {p.id: p for p in effect.parameters}
    if effect.group:
        # An entry of every type, where entries are told apart by one; else two that are alike.
        name, count = effect.group.id, len(effect.group.parameters[0].choices) or 2
        rows |= {f"{name}.{i}.{p.id}": p for i in range(count) for p in effect.group.parameters}
    kinds = effect.group.parameters[0] if effect.group else None
    curves = {}
    for id, p in rows.items():
        if not p.movable:
            low, high = p.low, min(p.high, max(p.low + 4, 2 * p.low))
            value = rng.uniform(low, high)
            if p.whole or p.choices:
                value = int(id.split(".")[1]) if p is kinds else round(value)
            curves[id] = Curve.constant(float(value), p.scale)
            continue
        low, high = p.low, p.high
        if p.unit == "ms":
            # Delays that fit into this short test.
            high = min(high, max(low * 2, 60.0))
        at = np.unique(np.concatenate([[0], rng.integers(1, longest, 4)]))
        if p.scale == "log":
            values = low * (high / low) ** rng.random(at.size)
        else:
            values = low + (high - low) * rng.random(at.size)
        eases = rng.choice(CHOICES, at.size)
        frames = zip(at.tolist(), values.tolist(), eases.tolist(), strict=True)
        curves[id] = Curve(tuple(Keyframe(a, v, e) for a, v, e in frames), p.scale)
    return effect.settings(curves, RATE)


def run(effect, settings, x, block, restart=0):
    """Treat a sound in blocks; with ``restart`` go on from a copied state in a new processor."""
    processor = effect.make(settings)
    parts = []
    at = 0
    while at < x.shape[1]:
        n = min(block, x.shape[1] - at)
        if restart and at <= restart < at + n:
            n = max(1, restart - at) if at < restart else n
        depth = np.full(n, 0.7)
        if effect.reference and effect.reference.to == "track":
            processor.hear(0.5 * x[::-1, at : at + n])
        parts.append(processor.process(x[:, at : at + n].copy(), at, depth))
        at += n
        if restart and at == restart:
            state = processor.state()
            processor = effect.make(settings)
            processor.restore(state)
    return np.concatenate(parts, axis=1)


@pytest.mark.parametrize("kind", EFFECTS)
def test_same_bits_whatever_the_block_and_from_a_checkpoint(kind):
    effect = EFFECTS[kind]
    settings = moving(effect, seed=sum(map(ord, kind)))
    x = noise(N, 3, 0.3).astype(np.float64)
    whole = run(effect, settings, x, N)
    for block, restart in ((64, 0), (333, 0), (4096, 0), (N, 4321)):
        assert np.array_equal(run(effect, settings, x, block, restart), whole), block
    short = x[:, :700]
    assert np.array_equal(run(effect, settings, short, 1), run(effect, settings, short, 700))


def loudness_by_tenths(y):
    """RMS of each second that begins on a tenth of one, in dB."""
    tenth = RATE // 10
    power = np.add.reduceat((y**2).mean(axis=0), np.arange(0, y.shape[1], tenth)) / tenth
    return 10 * np.log10(np.convolve(power, np.full(10, 0.1), "valid") + 1e-12)


@pytest.mark.parametrize("seed", [0, pytest.param(1, marks=pytest.mark.long)])
@pytest.mark.parametrize("kind", EFFECTS)
def test_nothing_in_range_runs_away(kind, seed):
    """Once sound has ended, what is left never grows by 1 dB over what has been.

    Everything moves in the first half second and stays where it is, so that no level rises after.
    """
    effect = EFFECTS[kind]
    settings = moving(effect, seed + 100, RATE // 2)
    late = effect.lookahead(settings)
    x = noise(5 * RATE + late, seed, 0.3).astype(np.float64)
    x[:, 2 * RATE :] = 0.0
    y = run(effect, settings, x, 4096)[:, late:]
    assert np.isfinite(y).all()
    loudness = loudness_by_tenths(y)
    # The seconds that hold some of the sound, and those after it.
    earlier, later = loudness[:20], loudness[20:]
    assert later.max() <= earlier.max() + 1.0


def test_what_runs_away_would_be_found():
    """The rule above is broken by a loop of gain 1.03 that doubles in half a second."""
    y = noise(5 * RATE, 1, 0.3).astype(np.float64)
    y[:, 2 * RATE :] *= 2.0 ** (np.arange(3 * RATE) / (RATE / 2))
    loudness = loudness_by_tenths(y)
    assert loudness[20:].max() > loudness[:20].max() + 1.0


@pytest.mark.parametrize("kind", [k for k, e in EFFECTS.items() if e.engages != "send"])
def test_silence_stays_silent(kind):
    effect = EFFECTS[kind]
    settings = effect.settings({}, RATE)
    y = run(effect, settings, np.zeros((2, 2000)), 512)
    assert np.array_equal(y, np.zeros((2, 2000)))


@pytest.mark.parametrize("kind", [k for k, e in EFFECTS.items() if e.engages == "sweep"])
def test_at_its_neutral_settings_a_sweep_changes_next_to_nothing(kind):
    effect = EFFECTS[kind]
    x = noise(N, 4, 0.3).astype(np.float64)
    y = effect.make(effect.settings({}, RATE)).process(x.copy(), 0, np.zeros(N))
    # A low-pass at 20 kHz is there, hence not the same bits; the level must be.
    assert abs(20 * np.log10(y.std() / x.std())) < 1.0


@pytest.mark.parametrize("kind", EFFECTS)
def test_no_effect_writes_to_values_that_are_shared(kind):
    """Parameters that never move are one array for all: who wrote to it would change others."""
    effect = EFFECTS[kind]
    settings = moving(effect, 1) if effect.group else effect.settings({}, RATE)
    run(effect, settings, noise(4000, 5, 0.3).astype(np.float64), 1000)
    held = shared_constants()
    assert held
    for value, array in held.items():
        assert (array == value).all(), value


@pytest.mark.parametrize("kind", EFFECTS)
def test_its_input_is_left_alone_unless_it_is_given_back(kind):
    effect = EFFECTS[kind]
    settings = moving(effect, 2) if effect.group else effect.settings({}, RATE)
    x = noise(3000, 6, 0.3).astype(np.float64)
    given = x.copy()
    y = effect.make(settings).process(given, 0, np.ones(3000))
    assert y is given or np.array_equal(given, x)


@pytest.mark.parametrize("kind", EFFECTS)
def test_silence_after_sound_leaves_no_slow_numbers(kind):
    """Denormal numbers take a processor many times as long as others."""
    effect = EFFECTS[kind]
    settings = moving(effect, 3, RATE // 4)
    x = np.zeros((2, 3 * RATE))
    x[:, : RATE // 2] = noise(RATE // 2, 7, 0.3)
    processor = effect.make(settings)
    for at in range(0, 3 * RATE, 4096):
        block = x[:, at : at + 4096].copy()
        if effect.reference and effect.reference.to == "track":
            processor.hear(block[::-1].copy())
        y = processor.process(block, at, np.ones(block.shape[1]))
    for part in (y, *processor.state()):
        numbers = np.abs(part[part != 0.0]) if part.dtype == np.float64 else np.ones(1)
        assert numbers.min(initial=1.0) >= np.finfo(np.float64).tiny


@pytest.mark.parametrize("kind", [k for k, e in EFFECTS.items() if e.engages == "send"])
def test_its_tail_is_as_long_as_it_says_and_ends_in_nothing(kind):
    params = {"ring_out": "auto", **treatment(4000, 6000, effect_of(kind))}
    doc = document(20000, treatments=[params])
    sound = rendered(doc, Memory(m1=np.concatenate([noise(9000, 8, 0.3)], axis=1)))
    assert np.abs(sound[:, -1]).max() < 1e-5
    assert np.abs(sound[:, 12000:-1]).max() > 1e-5


@pytest.mark.parametrize("kind", EFFECTS)
def test_its_example_sounds_and_is_no_longer_what_it_was(kind):
    x = Memory(m1=noise(RATE // 2, 9, 0.2), m2=noise(RATE // 2, 10, 0.3))
    doc = document(RATE // 2, treatments=[treatment(2000, 20000, effect_of(kind))])
    effect = EFFECTS[kind]
    if effect.reference and effect.reference.to == "track":
        doc["media"].append({"id": "m2", "path": "m2"})
        clip = {"id": "other", "media": "m2", "start": 0, "length": 20000}
        doc["tracks"].append({"id": "side", "mute": True, "clips": [clip]})
        doc["tracks"][0]["treatments"][0]["effects"][0]["params"][effect.reference.id] = "side"
    sound = rendered(doc, x)
    assert np.isfinite(sound).all()
    plain = rendered(document(RATE // 2), x)
    assert (sound[:, : plain.shape[1]] != plain).any()
    # It begins where its span does, but for what it is fed to settle.
    before = round((2000 / RATE - effect.table.lookback_s) * RATE)
    assert np.array_equal(sound[:, : max(0, before)], plain[:, : max(0, before)])


@pytest.mark.parametrize("kind", EFFECTS)
def test_its_table_is_complete(kind):
    effect = EFFECTS[kind]
    table = effect.table
    assert table.id == kind == effect.package.rsplit(".", 1)[1]
    assert table.label
    assert table.help.endswith(".")
    rows = [*table.parameters, *(table.group.parameters if table.group else ())]
    assert rows
    for p in rows:
        assert p.label
        assert p.help.endswith(".")
        assert p.low < p.high
        assert p.default is None or p.low <= p.default <= p.high
        assert p.neutral is None or p.low <= p.neutral <= p.high
        assert p.scale != "log" or p.low > 0
        assert p.default is not None or p.follows or not p.neutral
        assert not p.choices or p.high == len(p.choices) - 1
    for id in table.telling:
        assert table.parameter(id)
    assert sum(p.strength for p in rows) <= 1
    assert table.lookback_s >= 0


@pytest.mark.parametrize("kind", EFFECTS)
def test_it_has_presets_and_each_can_be_set(kind):
    effect = EFFECTS[kind]
    assert effect.presets
    names = [preset.name for preset in effect.presets]
    assert len(set(names)) == len(names)
    for preset in effect.presets:
        assert preset.help.endswith(".")
        part = EffectPart(id="e", kind=kind, params=effect.preset(preset.name, RATE))
        assert effect_curves(part)


def test_each_hatch_is_told_apart_in_black_and_white():
    """By its kind; else by a turn, by its width or by a dash that the eye sees."""

    def turned(a, b):
        return min((a.angle - b.angle) % 180, (b.angle - a.angle) % 180) >= 20

    for one, other in combinations(EFFECTS.values(), 2):
        a, b = one.hatch, other.hatch
        apart = (
            a.kind != b.kind
            or (turned(a, b) and a.kind not in ("rings", "dots"))
            or max(a.spacing, b.spacing) >= 1.2 * min(a.spacing, b.spacing)
            or bool(a.dash) != bool(b.dash)
        )
        assert apart, (one.id, other.id)


def test_hatches_are_drawn_by_few_kinds_and_all_are_seen():
    kinds = {effect.hatch.kind for effect in EFFECTS.values()}
    assert len(kinds) >= 5
    for effect in EFFECTS.values():
        assert 4.0 <= effect.hatch.spacing <= 30.0, effect.id
        assert 0.8 <= effect.hatch.weight < effect.hatch.spacing, effect.id


@pytest.mark.parametrize("kind", EFFECTS)
def test_it_is_found_by_its_words_and_its_values_can_be_typed(kind):
    table = EFFECTS[kind].table
    assert find_effects(table.label, {})[0].effect == kind
    for word in table.words.split():
        assert kind in {hit.effect for hit in find_effects(word, {})}
    rows = [*table.parameters, *(table.group.parameters if table.group else ())]
    assert all(p.choices or not p.unit or p.unit in UNITS for p in rows)
    assert set(table.first) <= {p.id for p in table.parameters}
