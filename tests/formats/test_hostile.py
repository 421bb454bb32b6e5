"""Files made to do harm: damaged at random, or absurd in what they claim."""

import json
import os
import random
import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
import soundfile
from test_round_trips import flash_film

ROOT = Path(__file__).parents[2]


def prepared(path, folder, *options):
    """The limited process, as a worker runs it; its last word."""
    done = subprocess.run(
        [sys.executable, "-m", "bathyphon.formats.prepare", str(path), str(folder), "48000",
         "film", "--memory", str(3 * 2**30), "--seconds", "60", *options],
        capture_output=True, text=True, cwd=ROOT / "src", check=False, timeout=120,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-500:]
    return json.loads(done.stdout.splitlines()[-1])


def damaged(data, rng):
    """Bytes changed, cut off, repeated or put elsewhere."""
    out = bytearray(data)
    for _ in range(rng.randint(1, 12)):
        how = rng.choice(["flip", "zero", "cut", "repeat", "huge"])
        at = rng.randrange(len(out))
        if how == "flip":
            out[at] ^= 1 << rng.randrange(8)
        elif how == "zero":
            out[at : at + rng.randrange(1, 64)] = bytes(rng.randrange(1, 64))
        elif how == "huge":
            out[at : at + 4] = b"\xff\xff\xff\x7f"
        elif how == "cut" and len(out) > 200:
            del out[at : at + rng.randrange(1, 100)]
        else:
            out[at:at] = out[at : at + rng.randrange(1, 100)]
    return bytes(out)


def fuzz(tmp_path, turns, seed):
    rng = random.Random(seed)
    sources = []
    for ending in ("mp4", "mkv", "mov"):
        path = tmp_path / f"good.{ending}"
        flash_film(path, Fraction(25), frames=26)
        sources.append(path.read_bytes())
    for ending in ("wav", "flac", "ogg"):
        path = tmp_path / f"good.{ending}"
        soundfile.write(path, np.random.default_rng(1).uniform(-0.5, 0.5, (9600, 2)), 48000)
        sources.append(path.read_bytes())
    for turn in range(turns):
        path = tmp_path / f"bad-{turn}"
        path.write_bytes(damaged(rng.choice(sources), rng))
        said = prepared(path, tmp_path / f"out-{turn}")
        assert "error" in said or "sound" in said or "picture" in said
        if "error" in said:
            assert "\n" not in said["error"]
            assert str(tmp_path) not in said["error"]


def test_damaged_files_get_an_answer(tmp_path):
    fuzz(tmp_path, 6, seed=1)


@pytest.mark.long
def test_many_damaged_files_get_an_answer(tmp_path):
    seed = int.from_bytes(os.urandom(4), "little")
    print("seed", seed)
    fuzz(tmp_path, 300, seed)


def test_a_file_that_would_grow_without_end_is_stopped(tmp_path):
    # Silence in FLAC: small on disk, large when decoded.
    path = tmp_path / "bomb.flac"
    with soundfile.SoundFile(path, "w", 8000, 1, "PCM_16") as file:
        for _ in range(60):
            file.write(np.zeros(8000 * 10, np.int16))
    said = prepared(path, tmp_path / "out", "--file-size", str(50 * 2**20))
    assert "cannot be prepared" in said["error"]
