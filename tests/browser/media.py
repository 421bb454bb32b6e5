"""Pictures and sounds with known content."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

RATE = 48000
# How long play takes to fade in: so many samples are not yet those of the render.
FADE = 240
BITS = 12
CELL = 20
WIDTH, HEIGHT = BITS * CELL, 136


def film(path: Path, frames: int, rate: int = 25) -> None:
    """A film whose every frame shows its number as black and white cells, lowest bit left."""
    with av.open(str(path), "w", options={"movflags": "faststart"}) as out:
        video = out.add_stream("libx264", rate=rate)
        video.width, video.height, video.pix_fmt = WIDTH, HEIGHT, "yuv420p"
        video.options = {"preset": "ultrafast", "crf": "20", "bf": "0"}
        video.gop_size = 12
        video.time_base = Fraction(1, rate)
        for number in range(frames):
            cells = [255 * (number >> bit & 1) for bit in range(BITS)]
            row = np.repeat(np.array(cells, np.uint8), CELL)
            image = np.repeat(np.repeat(row[None, :, None], HEIGHT, 0), 3, 2)
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(image), "rgb24")
            frame.pts, frame.time_base = number, Fraction(1, rate)
            out.mux(video.encode(frame))
        out.mux(video.encode())


def song(seconds: float) -> NDArray[np.float32]:
    """A chord with beats and a little noise, loud enough to measure everywhere."""
    t = np.arange(round(seconds * RATE)) / RATE
    rng = np.random.default_rng(7)
    x = sum(np.sin(2 * np.pi * f * t) for f in (110.0, 277.2, 659.3, 2217.5)) * 0.08
    x = x * (0.6 + 0.4 * np.exp(-(t % 0.5) * 6))
    both = np.stack([x, 0.8 * x]) + 0.03 * rng.standard_normal((2, t.size))
    return both.astype(np.float32)


def speech(seconds: float) -> NDArray[np.float32]:
    """Bursts like syllables."""
    t = np.arange(round(seconds * RATE)) / RATE
    carrier = sum(np.sin(2 * np.pi * 140 * k * t) / k for k in range(1, 9))
    x = 0.15 * carrier * np.clip(np.sin(2 * np.pi * 3 * t), 0, None)
    return np.stack([x, x]).astype(np.float32)


READ_FRAME = f"""() => {{
  const video = document.querySelector('.picture video');
  const canvas = (window.__canvas ??= new OffscreenCanvas({WIDTH}, {HEIGHT}));
  const g = canvas.getContext('2d', {{ willReadFrequently: true }});
  g.drawImage(video, 0, 0, {WIDTH}, {HEIGHT});
  const row = g.getImageData(0, {HEIGHT // 2}, {WIDTH}, 1).data;
  let number = 0;
  for (let bit = 0; bit < {BITS}; bit++)
    if (row[4 * (bit * {CELL} + {CELL // 2})] > 127) number |= 1 << bit;
  return number;
}}"""
