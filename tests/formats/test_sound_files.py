"""Sound files out: the same sound is the same file, whenever it is written."""

import time

import numpy as np
import pytest
import soundfile

from bathyphon.formats.wav import SoundWriter

RATE = 48000
WAYS = [(ending, bits) for ending in ("wav", "rf64", "w64", "aiff") for bits in ("16", "24", "32f")]


@pytest.fixture(scope="module")
def twice(tmp_path_factory):
    """Every container and depth, written in two different seconds of the clock."""
    sound = np.random.default_rng(3).uniform(-0.9, 0.9, (2, RATE // 10)).astype(np.float32)
    home = tmp_path_factory.mktemp("twice")
    for time_of_day in ("early", "late"):
        for ending, bits in [*WAYS, ("flac", "16"), ("flac", "24")]:
            path = home / f"{time_of_day} {bits}.{ending}"
            with SoundWriter(path, RATE, bits, sound.shape[1]) as out:
                out.write(sound)
        time.sleep(1.05)
    return home, sound


@pytest.mark.parametrize(("ending", "bits"), [*WAYS, ("flac", "16"), ("flac", "24")])
def test_the_same_sound_is_the_same_file_at_any_time_of_day(twice, ending, bits):
    home, sound = twice
    early, late = (home / f"{of_day} {bits}.{ending}" for of_day in ("early", "late"))
    assert early.read_bytes() == late.read_bytes()
    read, rate = soundfile.read(early, dtype="float32", always_2d=True)
    assert rate == RATE
    error = np.abs(read.T - sound).max()
    assert error <= {"16": 2 / 2**15, "24": 1 / 2**23, "32f": 0}[bits]
