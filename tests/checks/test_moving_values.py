"""Values that move do what their labels say: cents, dB and milliseconds, in jumps and ramps.

What is promised is the project's own (ENGINE rules, section 8); a pitch is taken from the phase of
a tone. That five cents are the least that is heard as a change of pitch is common practice.
"""

import numpy as np
import pytest
from scipy.signal import hilbert

from bathyphon.core.timing.curves import Curve, Keyframe
from reels import Memory, document, effect, keyframes, rendered, treat, treatment

RATE = 48000
TONE_HZ = 2000.0
HEARD_CENTS = 5.0
TAPE_CENTS = 1200 * np.log2(1.5)
"""How far a delay that is caught up with bends the pitch: half a sample a sample."""


def tone(seconds, hz=TONE_HZ):
    t = np.arange(round(seconds * RATE)) / RATE
    return np.stack([np.sin(2 * np.pi * hz * t)] * 2) * 0.5


def cents_of(y, hz=TONE_HZ, over=0.002):
    """The pitch of a tone over time, against what went in, in cents."""
    phase = np.unwrap(np.angle(hilbert(y)))
    n = round(over * RATE)
    turn = (phase[n:] - phase[:-n]) / (2 * np.pi * n) * RATE
    found = np.full(y.size, 0.0)
    found[n // 2 : n // 2 + turn.size] = 1200 * np.log2(np.maximum(turn, 1.0) / hz)
    return found


def curve_of(params):
    frames = params["keyframes"]
    return Curve(tuple(Keyframe(k["at"], k["value"], k.get("ease", "linear")) for k in frames))


def shaken(seed, low, high, seconds, a_second=30):
    """A hand that does not rest: so many values a second."""
    rng = np.random.default_rng(seed)
    places = np.arange(0, seconds, 1 / a_second) * RATE
    walk = np.clip(np.cumsum(rng.normal(0, 0.15, places.size)) % 2, 0, 2)
    share = np.where(walk > 1, 2 - walk, walk)
    return keyframes(
        *((int(p), float(low + (high - low) * s)) for p, s in zip(places, share, strict=True))
    )


VIBRATOS = {
    "sets in within a tenth": {
        "rate_hz": 0.5, "swing": keyframes((0, 0), (RATE, 0), (RATE + 4800, 100)),
    },
    "steps": {"rate_hz": 1.0, "swing": keyframes((0, 20, "hold"), (RATE + 7000, 100, "hold"))},
    "steps down": {"rate_hz": 3.0, "swing": keyframes((0, 180, "hold"), (RATE + 999, 10, "hold"))},
    "is shaken": {"rate_hz": 2.0, "swing": shaken(1, 0, 150, 8)},
    "is shaken fast": {"rate_hz": 9.0, "swing": shaken(2, 0, 200, 8)},
    "its rate steps": {"rate_hz": keyframes((0, 1, "hold"), (RATE, 6, "hold")), "swing": 80.0},
    "its rate is shaken": {"rate_hz": shaken(3, 0.5, 8, 8), "swing": 60.0},
    "its sides move apart": {
        "rate_hz": 2.0, "swing": 50.0, "stereo": keyframes((0, 0), (RATE, 0), (RATE + 4800, 180)),
    },
}  # fmt: skip


@pytest.mark.parametrize("shape", ["sine", "triangle", "square"])
@pytest.mark.parametrize("name", VIBRATOS)
def test_vibrato_swings_by_so_many_cents_and_no_more(name, shape):
    params = VIBRATOS[name]
    y = treat("vibrato", tone(8), shape=shape, **params)
    swing = params["swing"]
    n = y.shape[1]
    target = curve_of(swing).values(0, n, RATE) if isinstance(swing, dict) else np.full(n, swing)
    # What is set within the time over which the pitch is taken.
    wide = np.array([target[max(0, i - 500) : i + 500].max() for i in range(0, n, 250)])
    up = np.repeat(wide, 250)[:n]
    # The delay swings evenly, so it is the speed that goes as far down as up.
    down = -1200 * np.log2(2 - 2 ** (up / 1200))
    for side in y:
        cents = cents_of(side)
        beyond = np.maximum(cents - up, -cents - down)[4800:-4800]
        assert beyond.max() <= HEARD_CENTS


@pytest.mark.parametrize("late", [2.0, 5.0])
def test_vibrato_reaches_what_is_set_after_a_step(late):
    y = treat("vibrato", tone(8), **VIBRATOS["steps"])[0]
    part = cents_of(y)[round(late * RATE) : round((late + 2) * RATE)]
    assert part.max() == pytest.approx(100, abs=HEARD_CENTS)
    assert part.min() == pytest.approx(-106, abs=HEARD_CENTS + 3)


JUMPS = {
    "delay_ms": (3.0, 9.0),
    "swing": (0.0, 100.0),
    "stereo": (0.0, 180.0),
    "rate_hz": (0.1, 3.0),
}


@pytest.mark.parametrize("how", ["hold", "linear"])
@pytest.mark.parametrize("id", JUMPS)
def test_a_flanger_bends_the_pitch_like_a_tape_at_most(id, how):
    low, high = JUMPS[id]
    frames = keyframes((0, low, how), (RATE, low, how), (RATE + 480, high, how), (2 * RATE, high))
    base = {"mix": 100, "delay_ms": 8.0, "swing": 60.0, "rate_hz": 0.3, "feedback": 0}
    given = {**base, id: frames}
    # How fast the swing itself moves the delay, at its widest.
    largest = {k: max(JUMPS[k]) if k == id else base.get(k, 0) for k in base | JUMPS}
    own = np.pi * largest["delay_ms"] / 1000 * largest["swing"] / 100 * largest["rate_hz"]
    bound = 1200 * np.log2(1.5 + own) + 20
    for side in treat("flanger", tone(3), **given):
        cents = cents_of(side)[4800:-4800]
        assert cents.max() <= bound
        assert cents.min() >= 1200 * np.log2(0.5 - own) - 20


@pytest.mark.parametrize("id", JUMPS)
def test_a_chorus_does_so_too(id):
    low, high = JUMPS[id]
    low, high = (15.0, 40.0) if id == "delay_ms" else (low, high)
    frames = keyframes((0, low, "hold"), (RATE, high, "hold"))
    given = {"mix": 100, "delay_ms": 20.0, "swing": 60.0, "rate_hz": 0.3, id: frames}
    hz = 6000.0
    y = treat("chorus", tone(2.5, hz), **given)
    # Three copies at once: no one pitch, but nothing lies farther off than a tape would bend it.
    for side in y:
        part = side[RATE - 4800 : RATE + 14400]
        power = np.abs(np.fft.rfft(part * np.hanning(part.size))) ** 2
        at = np.fft.rfftfreq(part.size, 1 / RATE)
        outside = power[(at < 0.4 * hz) | (at > 1.65 * hz)].sum() / power.sum()
        assert 10 * np.log10(outside) <= -30


ORBITS = {
    "a jump to the other side": {"azimuth": keyframes((0, -90, "hold"), (RATE, 90, "hold"))},
    "a fast turn": {"azimuth": keyframes((0, 0), (RATE, 0), (RATE + 9600, 720))},
    "a spread that steps": {
        "azimuth": 60.0, "spread": keyframes((0, 0, "hold"), (RATE, 100, "hold")),
    },
    "a distance that steps": {
        "azimuth": 30.0, "distance": keyframes((0, 0.5, "hold"), (RATE, 20, "hold")),
    },
}  # fmt: skip


@pytest.mark.parametrize("name", ORBITS)
def test_what_moves_around_the_head_keeps_its_pitch_within_what_moving_does(name):
    # One source only: of two at once there is no one pitch.
    y = treat("orbit", tone(3) * [[1.0], [0.0]], **{"spread": 0.0, **ORBITS[name]})
    for side in y:
        # What ten turns a second change of the way to an ear, (a/c)·2·2π·10, is 55 cents; shelves
        # that move with it add some.
        assert np.abs(cents_of(side)[4800:-4800]).max() <= 75


def test_distance_is_level():
    frames = keyframes((0, 1, "hold"), (RATE, 4, "hold"))
    y = treat("orbit", tone(2, 200.0), azimuth=0.0, spread=0.0, distance=frames)
    before, after = (np.sqrt((y[0, a : a + 9600] ** 2).mean()) for a in (30_000, 80_000))
    assert 20 * np.log10(after / before) == pytest.approx(-12.04, abs=0.6)


@pytest.mark.parametrize("how", ["hold", "linear"])
def test_a_tape_echo_bends_the_pitch_by_no_more_than_a_tape(how):
    frames = keyframes((0, 200, how), (RATE, 200, how), (RATE + 480, 320, how))
    y = treat("echo", tone(3), mix=100, time_ms=frames, repeats=1, drop_db=6)[0]
    cents = cents_of(y)[RATE // 2 : -4800]
    assert np.abs(cents.max()) <= TAPE_CENTS + 20
    assert cents.min() >= 1200 * np.log2(0.5) - 20
    # And then it is there.
    assert np.abs(cents_of(y)[2 * RATE : -4800]).max() < 1


@pytest.mark.parametrize("material", ["voice", "music"])
@pytest.mark.parametrize("how", ["hold", "linear"])
def test_pitch_is_where_it_is_set(how, material):
    frames = keyframes((0, 0, how), (RATE, 0, how), (RATE + 9600, 7, how), (3 * RATE, -5, how))
    hz = 400.0
    y = treat("pitch", tone(5, hz), semitones=frames, material=material, formants="follow")[0]
    target = 100 * curve_of(frames).values(0, y.size, RATE)
    cents = cents_of(y, hz, over=0.02)
    changing = np.abs(np.gradient(target)) > 0
    near = np.convolve(changing, np.ones(4800), "same") > 0
    good = ~near if how == "hold" else np.ones(y.size, bool)
    good[:9600] = good[-9600:] = False
    off = np.abs(cents - target)[good]
    assert np.percentile(off, 99) <= HEARD_CENTS
    assert off.max() <= 40


def test_a_voice_of_harmony_has_its_pitch_when_it_is_heard():
    frames = keyframes((0, 0, "hold"), (2 * RATE, 7, "hold"))
    voice = {"semitones": frames, "delay_ms": 400, "gain_db": 0}
    more = {"material": "music", "formants": "follow", "dry_db": -96}
    y = treat("harmony", tone(5, 400.0), voices=[voice], **more)[0]
    cents = cents_of(y, 400.0, over=0.02)
    assert np.abs(cents[RATE : 2 * RATE - 4800]).max() <= HEARD_CENTS
    assert np.abs(cents[2 * RATE + 4800 : 4 * RATE] - 700).max() <= HEARD_CENTS


@pytest.mark.parametrize("how", ["hold", "linear"])
def test_speed_bends_the_pitch_as_it_is_set(how):
    frames = keyframes((0, 100, how), (RATE, 100, how), (2 * RATE, 160, how), (3 * RATE, 60, how))
    n = 5 * RATE
    x = tone(12)[:, : 9 * RATE].astype(np.float32)
    doc = document(n, clip={"speed": {"percent": frames, "pitch": "follow", "formants": "follow"}})
    y = rendered(doc, Memory(m1=x))[0].astype(float)
    target = 1200 * np.log2(curve_of(frames).values(0, n, RATE) / 100)
    off = np.abs(cents_of(y) - target)[4800:-4800]
    steps = np.abs(np.gradient(target))[4800:-4800] > 1
    near = np.convolve(steps, np.ones(600), "same") > 0
    assert off[~near].max() <= 1.0


@pytest.mark.parametrize("shape", ["sine", "triangle", "square"])
def test_tremolo_lowers_the_level_by_so_much_and_no_more(shape):
    frames = shaken(4, 0, 100, 4)
    y = treat("tremolo", np.ones((2, 4 * RATE)), rate_hz=5, swing=frames, shape=shape)[0]
    swing = curve_of(frames).values(0, y.size, RATE) / 100
    assert (y <= 1 + 1e-9).all()
    assert (y >= 1 - swing - 1e-9).all()


@pytest.mark.parametrize(("kind", "id"), [("gain", "level_db"), ("muffle", "level_db")])
def test_a_level_that_steps_is_there_after_its_glide(kind, id):
    frames = keyframes((0, 0, "hold"), (RATE, -18, "hold"))
    params = {"high_cut_hz": 20000} if kind == "muffle" else {}
    x = tone(2, 300.0).astype(np.float32)
    doc = document(
        2 * RATE, treatments=[treatment(0, 2 * RATE, effect(kind, **params, **{id: frames}))]
    )
    y = rendered(doc, Memory(m1=x))[0].astype(float)
    after = y[RATE + 960 : RATE + 960 + 4800]
    assert 20 * np.log10(np.sqrt((after**2).mean()) / 0.5 * np.sqrt(2)) == pytest.approx(
        -18, abs=0.1
    )


def flutter(hold):
    """How far the gain moves under a level that swings by half a dB about the threshold."""
    t = np.arange(3 * RATE) / RATE
    level = -40 + 0.5 * np.sin(2 * np.pi * 2 * t)
    x = np.sqrt(1) * np.sin(2 * np.pi * 500 * t) * 10 ** (level / 20)
    y = treat("gate", np.stack([x, x]), threshold_db=-40, range_db=30, hold_ms=hold, attack_ms=1,
              release_ms=20)[0]  # fmt: skip
    loud = np.abs(x) > 0.5 * 10 ** (level / 20)
    gain = 20 * np.log10(np.abs(y[loud] / x[loud]) + 1e-9)[loud.sum() // 3 :]
    return gain.max() - gain.min()


@pytest.mark.parametrize("hold", [0, 1, 80])
def test_a_gate_does_not_flutter_about_its_threshold(hold):
    assert flutter(hold) <= 0.1
