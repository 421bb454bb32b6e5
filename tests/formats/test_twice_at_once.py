"""Two people bring in the same film at once, a preparation is killed, a cache is spoilt."""

import json
import subprocess
import sys
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from test_round_trips import flash_film

from bathyphon.formats.prepare import prepare

ROOT = Path(__file__).parents[2]
FRAMES = 120


def begun(path, folder):
    """The process that prepares, as a worker starts it."""
    return subprocess.Popen(
        [sys.executable, "-m", "bathyphon.formats.prepare", str(path), str(folder), "48000",
         "film"],
        stdout=subprocess.PIPE, text=True, cwd=ROOT / "src",
    )  # fmt: skip


def last_word(process):
    return json.loads(process.communicate(timeout=120)[0].splitlines()[-1])


def frames_of(path):
    with av.open(str(path)) as film:
        return sum(1 for _ in film.decode(video=0))


@pytest.fixture
def film(tmp_path):
    path = tmp_path / "film.mp4"
    # Larger than what a browser plays well, so that a proxy is encoded.
    with av.open(str(path), "w") as out:
        video = out.add_stream("mpeg4", rate=25)
        video.width, video.height, video.pix_fmt = 640, 360, "yuv420p"
        video.time_base = Fraction(1, 25)
        noise = np.random.default_rng(1)
        for number in range(FRAMES):
            image = np.full((360, 640, 3), number * 2, np.uint8)
            image[:60] = noise.integers(0, 255, (60, 640, 3), np.uint8)
            frame = av.VideoFrame.from_ndarray(image, "rgb24")
            frame.pts, frame.time_base = number, Fraction(1, 25)
            out.mux(video.encode(frame))
        out.mux(video.encode())
    return path


def test_two_at_once_make_one_whole_proxy(film, tmp_path):
    folder = tmp_path / "prepared"
    both = [begun(film, folder) for _ in range(2)]
    first, second = (last_word(process) for process in both)
    assert first == second
    assert first["picture"]["frames"] == FRAMES
    assert frames_of(folder / "proxy.mp4") == FRAMES


def test_one_that_is_killed_leaves_the_way_to_the_next(film, tmp_path):
    folder = tmp_path / "prepared"
    killed = begun(film, folder)
    while not list(folder.glob("proxy*")):
        time.sleep(0.02)
    killed.kill()
    killed.wait()
    assert last_word(begun(film, folder))["picture"]["frames"] == FRAMES
    assert frames_of(folder / "proxy.mp4") == FRAMES


@pytest.mark.parametrize("spoil", ["proxy gone", "proxy empty", "info cut off", "sound gone"])
def test_a_spoilt_cache_heals(spoil, tmp_path):
    film, folder = tmp_path / "film.mp4", tmp_path / "prepared"
    flash_film(film, Fraction(25))
    told = []
    info = prepare(film, folder, 48000, told.append)
    (kept,) = folder.glob("info-*.json")
    if spoil == "proxy gone":
        (folder / "proxy.mp4").unlink()
    elif spoil == "proxy empty":
        (folder / "proxy.mp4").write_bytes(b"")
    elif spoil == "info cut off":
        kept.write_text(kept.read_text()[:40])
    else:
        next(folder.glob("sound-*.f32")).unlink()
    assert prepare(film, folder, 48000, told.append) == info
    assert frames_of(folder / "proxy.mp4") == info["picture"]["frames"]
    assert next(folder.glob("sound-*.f32")).stat().st_size
    # What is whole is not made again.
    told.clear()
    prepare(film, folder, 48000, told.append)
    assert told == []
