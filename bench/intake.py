"""Bringing files in: decoding, drawing, proxy, beats and cuts, as times real time.

Run as ``PYTHONPATH=src .venv/bin/python bench/intake.py``. Each is also given as a ratio to the
plain decoder doing the least it must in the same run.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import soundfile

from bathyphon.core.measure.beats import find_beats
from bathyphon.core.measure.shots import find_cuts
from bathyphon.formats.conform import ConformedFile, conform
from bathyphon.formats.decode import probe
from bathyphon.formats.listen import listen
from bathyphon.formats.peaks import write_peaks
from bathyphon.formats.picture import prepare_picture
from bathyphon.formats.small_frames import read_frames

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tests"))
from music import song  # noqa: E402

RATE = 48000
MINUTES = 10
FILM_SECONDS = 40


def spent(work: Callable[[], object]) -> float:
    """Seconds that a call takes."""
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def plain_decode(path: Path, kind: str) -> float:
    """The decoder alone, throwing everything away."""

    def work() -> None:
        with av.open(str(path)) as container:
            stream = container.streams.get({kind: 0})[0]
            if kind == "video":
                stream.thread_type = "AUTO"
            for _ in container.decode(stream):
                pass

    return spent(work)


def film(path: Path) -> None:
    """720p at 25 frames a second: moving gradients, a little grain, a cut each two seconds."""
    rng = np.random.default_rng(1)
    grain = [rng.integers(0, 3, (720, 1280, 3), np.uint8) for _ in range(8)]
    with av.open(str(path), "w") as out:
        video = out.add_stream("libx264", rate=25)
        video.width, video.height, video.pix_fmt = 1280, 720, "yuv420p"
        video.options = {"preset": "veryfast", "crf": "23"}
        slope = np.arange(1280, dtype=np.uint32)[None, :, None]
        for i in range(FILM_SECONDS * 25):
            colour = np.random.default_rng(i // 50).integers(20, 200, (1, 1, 3))
            base = (colour + (slope + 3 * i) % 256 // 8).astype(np.uint8)
            frame = av.VideoFrame.from_ndarray(base + grain[i % 8], "rgb24")
            frame.pts, frame.time_base = i, Fraction(1, 25)
            out.mux(video.encode(frame))
        out.mux(video.encode())


def main() -> None:
    """Measure and print."""
    folder = Path(tempfile.mkdtemp())
    one = song(np.random.default_rng(3), (123.4,), 60).sound
    whole = np.tile(one, MINUTES)
    flac, sound = folder / "ten.flac", folder / "sound.f32"
    soundfile.write(flac, whole.T, RATE, subtype="PCM_24")
    seconds = MINUTES * 60
    least = plain_decode(flac, "audio")
    decoded = spent(lambda: conform(flac, sound, RATE))
    drawn = spent(lambda: write_peaks(ConformedFile(sound), folder, RATE))
    find_beats(one.mean(axis=0), RATE)
    heard = spent(lambda: listen(ConformedFile(sound), folder, RATE, "x"))
    music = np.tile(one, 3).mean(axis=0)
    beats = min(spent(lambda: find_beats(music, RATE)) for _ in range(3))
    print(f"plain decoding of stereo FLAC: {seconds / least:.0f} × real time")
    print(f"decode, conform and peaks: {seconds / (decoded + drawn):.0f} × real time, "
          f"{(decoded + drawn) / least:.1f} × the plain decoder's time; "
          f"waveform after {decoded + drawn:.2f} s")  # fmt: skip
    print(f"loudness, onsets and beats: {seconds / heard:.0f} × real time")
    print(f"beats of a 3-minute song: {beats:.2f} s")
    print(f"probe: {spent(lambda: probe(flac)) * 1000:.0f} ms")

    path = folder / "film.mp4"
    film(path)
    picture = probe(path).picture
    assert picture is not None
    least = plain_decode(path, "video")
    (folder / "p").mkdir()
    made = spent(lambda: prepare_picture(path, folder / "p", picture, lambda done: None))
    found = spent(lambda: list(find_cuts(read_frames(folder / "p" / "small.u8"), 25.0)))
    print(f"plain decoding of 720p25: {FILM_SECONDS / least:.1f} × real time")
    print(f"proxy, strip, small frames and cuts: {FILM_SECONDS / made:.1f} × real time, "
          f"{made / least:.1f} × the plain decoder's time")  # fmt: skip
    print(f"cuts in small frames: {FILM_SECONDS / found:.0f} × real time; with decoding "
          f"{FILM_SECONDS / (found + least):.1f} ×")  # fmt: skip


if __name__ == "__main__":
    main()
