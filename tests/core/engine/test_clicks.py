"""No bypass of care: steps, hard edges and engagement leave no click (ENGINE rules, section 8)."""

import numpy as np
import pytest
from scipy.signal import butter, sosfilt

from reels import Memory, document, effect, keyframes, rendered, treatment

RATE = 48000
N = RATE
HIGH = butter(8, 8000, "highpass", fs=RATE, output="sos")


def click_db(sound, at):
    """Largest 10 ms RMS above 8 kHz within 20 ms of a change, less the steady state's."""
    high = sosfilt(HIGH, sound.astype(np.float64))
    window = np.ones(480) / 480
    rms = np.sqrt(np.convolve(high**2, window, "same"))
    near = rms[at - 960 : at + 960].max()
    steady = max(rms[at - 4800 : at - 2400].max(), rms[at + 2400 : at + 4800].max())
    return 20 * np.log10(max(near - steady, 1e-9) / np.sqrt(0.125))


CHANGES = {
    "muffle without ramps": [treatment(20_000, 12_000, effect("muffle", high_cut_hz=300))],
    "gain without ramps": [treatment(20_000, 12_000, effect("gain", level_db=-96))],
    "echo without ramps": [treatment(20_000, 12_000, effect("echo", mix=100, time_ms=400))],
    "reverb without ramps": [
        # Cut short: what rings on after this does not matter here.
        treatment(20_000, 12_000, effect("reverb", mix=100, decay_s=2), ring_out=4800)
    ],
    "held decay": [
        treatment(
            4_000, 40_000,
            effect("reverb", mix=100,
                   decay_s=keyframes((0, 3, "hold"), (16_000, 0.5, "hold"))),
            ring_out=4800,
        )
    ],
    "moving size": [
        treatment(
            4_000, 40_000,
            effect("reverb", mix=100, size=keyframes((0, 60), (14_000, 60), (20_000, 110))),
            ring_out=4800,
        )
    ],
    "freeze": [
        treatment(
            4_000, 40_000,
            effect("reverb", mix=100, freeze=keyframes((0, 0, "hold"), (16_000, 1, "hold"))),
            ring_out=4800,
        )
    ],
    "held level": [
        treatment(
            10_000, 30_000,
            effect("gain", level_db=keyframes((0, 0, "hold"), (10_000, -40, "hold"))),
        )
    ],
    "held frequency": [
        treatment(
            10_000, 30_000,
            effect("muffle", high_cut_hz=keyframes((0, 20000, "hold"), (10_000, 400, "hold"))),
        )
    ],
}  # fmt: skip


@pytest.mark.parametrize("name", CHANGES)
def test_a_change_makes_no_click(name):
    worst = -200.0
    for phase in np.arange(16) / 16:
        t = np.arange(N) / RATE
        x = (0.5 * np.sin(2 * np.pi * (200 * t + phase))).astype(np.float32)
        doc = document(N, treatments=CHANGES[name])
        sound = rendered(doc, Memory(m1=np.stack([x, x])))[0]
        worst = max(worst, click_db(sound, 20_000))
    assert worst <= -70
