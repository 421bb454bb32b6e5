"""Draws the picture of *The Ninth Sump*: eight shots, 96 s at 25 fps."""

from __future__ import annotations

import math
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from PIL import Image, ImageDraw, ImageFont

FPS = 25
FRAMES = 96 * FPS
CUTS = [300, 550, 900, 1125, 1625, 1900, 2100]
WIDTH, HEIGHT, FINE = 768, 432, 2
W, H = WIDTH * FINE, HEIGHT * FINE
AMBER, SUIT, LAMP = (236, 168, 60), (22, 34, 44), (255, 236, 190)

Draw = ImageDraw.ImageDraw
Colour = tuple[int, int, int]


def gradient(top: Colour, bottom: Colour) -> Image.Image:
    """A vertical gradient over the whole frame."""
    t = np.linspace(0, 1, H)[:, None, None]
    rows = np.array(top) * (1 - t) + np.array(bottom) * t
    return Image.fromarray(np.repeat(rows.astype(np.uint8), W, axis=1), "RGB")


def hills(d: Draw, seed: float, base: float, height: float, colour: Colour, drift: float) -> None:
    """A ridge line made of slow waves."""
    x = np.arange(0, W + 16, 16)
    u = x / W * 6 + seed + drift
    y = base - height * (np.sin(u) * 0.5 + np.sin(u * 2.3 + seed) * 0.3 + np.sin(u * 5.1) * 0.08)
    d.polygon([(0, H), *zip(x.tolist(), (y * H).tolist(), strict=True), (W, H)], fill=colour)


def rock(d: Draw, seed: float, depth: float, colour: Colour, drift: float, top: bool) -> None:
    """A rough roof or floor of rock."""
    x = np.arange(0, W + 12, 12)
    u = x / W * 9 + seed + drift
    y = depth * (1 + 0.45 * np.sin(u) + 0.22 * np.sin(2.7 * u + seed) + 0.1 * np.sin(7.1 * u))
    line = (y if top else 1 - y) * H
    edge = 0 if top else H
    d.polygon([(0, edge), *zip(x.tolist(), line.tolist(), strict=True), (W, edge)], fill=colour)


def diver(d: Draw, x: float, y: float, size: float, kick: float) -> None:
    """Mara, swimming to the right."""
    s = size * H
    d.ellipse([x - 1.5 * s, y - 0.34 * s, x + 0.9 * s, y + 0.36 * s], fill=SUIT)
    d.ellipse([x + 0.7 * s, y - 0.42 * s, x + 1.3 * s, y + 0.2 * s], fill=SUIT)
    d.rounded_rectangle([x - 0.7 * s, y - 0.62 * s, x + 0.6 * s, y - 0.26 * s], 0.16 * s, AMBER)
    for side, phase in ((-1, 0.0), (1, math.pi)):
        tip = y + 0.5 * s * math.sin(kick + phase)
        d.line([x - 1.3 * s, y + side * 0.1 * s, x - 2.2 * s, tip], SUIT, int(0.22 * s))
        d.polygon(
            [
                (x - 2.1 * s, tip - 0.12 * s),
                (x - 3.0 * s, tip - 0.3 * s),
                (x - 2.9 * s, tip + 0.28 * s),
            ],
            AMBER,
        )
    d.line([x + 0.4 * s, y + 0.1 * s, x + 1.3 * s, y + 0.5 * s], SUIT, int(0.2 * s))
    d.ellipse([x + 1.1 * s, y - 0.3 * s, x + 1.34 * s, y - 0.06 * s], fill=LAMP)


def beam(image: Image.Image, x: float, y: float, angle: float, reach: float, power: float) -> None:
    """A cone of light laid over the picture."""
    layer = Image.new("L", image.size, 0)
    d = ImageDraw.Draw(layer)
    for k in range(6):
        spread = 0.10 + 0.035 * k
        points = [(x, y)]
        for a in (angle - spread, angle + spread):
            points.append((x + math.cos(a) * reach * H, y + math.sin(a) * reach * H))
        d.polygon(points, fill=int(255 * power * (0.34 - 0.045 * k)))
    image.paste(Image.new("RGB", image.size, LAMP), (0, 0), layer)


def bubbles(d: Draw, x: float, y: float, f: int, many: int, colour: Colour) -> None:
    """Rings that rise and widen."""
    for k in range(many):
        age = ((f * 1.1 + k * 37) % 130) / 130
        r = (4 + 13 * age) * FINE * (0.6 + 0.4 * math.sin(k * 7.7))
        bx = x + math.sin(age * 9 + k * 2.1) * 26 * FINE + k * 5
        by = y - age * 0.75 * H
        d.ellipse([bx - r, by - r, bx + r, by + r], outline=colour, width=2 * FINE)


def dawn(f: int, n: int) -> Image.Image:
    t = f / n
    image = gradient((38, 62, 92), (238, 178, 130))
    d = ImageDraw.Draw(image)
    sun = (0.62 * W, (0.62 - 0.10 * t) * H)
    for k in range(5, 0, -1):
        r = (20 + 16 * k) * FINE
        shade = (246, 196 + 6 * (5 - k), 140 + 14 * (5 - k))
        d.ellipse([sun[0] - r, sun[1] - r, sun[0] + r, sun[1] + r], fill=shade)
    hills(d, 0.4, 0.66, 0.10, (120, 112, 128), t * 0.10)
    hills(d, 2.2, 0.76, 0.12, (72, 82, 96), t * 0.22)
    hills(d, 4.0, 0.90, 0.10, (34, 48, 56), t * 0.4)
    d.ellipse([0.20 * W, 0.80 * H, 0.31 * W, 1.06 * H], fill=(8, 12, 16))
    x = (0.44 - 0.14 * t) * W
    step = math.sin(f * 0.35) * 8 * FINE
    d.line([x, 0.80 * H, x - step, 0.86 * H], SUIT, 7 * FINE)
    d.line([x, 0.80 * H, x + step, 0.86 * H], SUIT, 7 * FINE)
    d.rounded_rectangle([x - 9 * FINE, 0.72 * H, x + 9 * FINE, 0.81 * H], 8 * FINE, SUIT)
    d.rounded_rectangle([x + 5 * FINE, 0.71 * H, x + 18 * FINE, 0.79 * H], 4 * FINE, AMBER)
    d.ellipse([x - 8 * FINE, 0.68 * H, x + 8 * FINE, 0.72 * H], fill=(208, 150, 110))
    return image


def crawl(f: int, n: int) -> Image.Image:
    t = f / n
    image = gradient((26, 22, 20), (58, 44, 34))
    sway = math.sin(f * 0.22) * 10 * FINE
    x, y = (0.30 + 0.12 * t) * W, 0.60 * H + sway
    beam(image, x + 46 * FINE, y, 0.04 * math.sin(f * 0.1), 1.6, 0.9)
    d = ImageDraw.Draw(image)
    rock(d, 1.0, 0.36, (20, 17, 16), t * 1.6, True)
    rock(d, 3.0, 0.24, (15, 13, 12), t * 2.2, False)
    d.rounded_rectangle(
        [x - 80 * FINE, y - 14 * FINE, x + 16 * FINE, y + 22 * FINE], 16 * FINE, (52, 60, 62)
    )
    d.ellipse([x + 4 * FINE, y - 24 * FINE, x + 44 * FINE, y + 14 * FINE], fill=AMBER)
    d.ellipse([x + 38 * FINE, y - 10 * FINE, x + 48 * FINE, y], fill=LAMP)
    reach = math.sin(f * 0.22) * 20 * FINE
    d.line([x, y + 14 * FINE, x + 52 * FINE + reach, y + 40 * FINE], (52, 60, 62), 11 * FINE)
    return image


def chamber(f: int, n: int) -> Image.Image:
    t = f / n
    image = gradient((8, 14, 22), (24, 36, 46))
    angle = -0.9 + 0.7 * t
    beam(image, 0.30 * W, 0.80 * H, angle, 1.7, 0.55)
    d = ImageDraw.Draw(image)
    rock(d, 0.2, 0.13, (12, 18, 24), 0.05 * t, True)
    for k in range(9):
        x = (0.06 + 0.115 * k + 0.01 * t) * W
        length = (0.16 + 0.10 * math.sin(k * 2.4)) * H
        half = (9 + 4 * math.sin(k * 5.0)) * FINE
        d.polygon(
            [(x - half, 0.08 * H), (x + half, 0.08 * H), (x, 0.10 * H + length)], fill=(18, 27, 34)
        )
    rock(d, 5.2, 0.12, (9, 13, 17), 0.08 * t, False)
    x, y = 0.30 * W, 0.80 * H
    d.rounded_rectangle(
        [x - 7 * FINE, y - 6 * FINE, x + 7 * FINE, y + 40 * FINE], 6 * FINE, (70, 46, 36)
    )
    d.ellipse([x - 7 * FINE, y - 18 * FINE, x + 7 * FINE, y - 4 * FINE], fill=AMBER)
    # The call and what comes back from the far wall, as rings.
    for start, side in ((40, 1.0), (80, -1.0), (120, 1.0)):
        age = (f - start) / 60
        if 0 < age < 1:
            cx = x if side > 0 else 0.94 * W
            r = age * 0.62 * W
            shade = int(90 * (1 - age))
            box = [cx - r, y - r * 0.9, cx + r, y + r * 0.9]
            sector = (-60, 10) if side > 0 else (170, 240)
            d.arc(box, *sector, fill=(40 + shade, 70 + shade, 80 + shade), width=3 * FINE)
    return image


def pool(f: int, n: int) -> Image.Image:
    image = gradient((18, 22, 28), (34, 40, 46))
    t = f / n
    beam(image, 0.34 * W, 0.50 * H, 0.22 + 0.06 * math.sin(f * 0.07), 1.3, 0.7)
    d = ImageDraw.Draw(image)
    rock(d, 2.0, 0.20, (24, 26, 30), 0.05 * t, True)
    d.rectangle([0, 0.74 * H, W, H], fill=(22, 84, 104))
    for k in range(7):
        y = (0.76 + 0.034 * k) * H
        x = np.arange(0, W + 24, 24)
        wave = y + np.sin(x / W * (14 - k) + f * 0.09 + k * 1.7) * 3 * FINE
        d.line(
            list(zip(x.tolist(), wave.tolist(), strict=True)),
            (38 + 5 * k, 108 + 7 * k, 128),
            2 * FINE,
        )
    x = 0.30 * W
    d.polygon([(0, 0.70 * H), (0.42 * W, 0.73 * H), (0.45 * W, H), (0, H)], fill=(34, 32, 34))
    d.rounded_rectangle(
        [x - 22 * FINE, 0.52 * H, x + 22 * FINE, 0.74 * H], 14 * FINE, (186, 84, 52)
    )
    d.ellipse([x - 14 * FINE, 0.43 * H, x + 16 * FINE, 0.52 * H], fill=AMBER)
    blink = (f // 6) % 2 == 0 and 40 < f < 180
    d.rectangle([x + 24 * FINE, 0.55 * H, x + 34 * FINE, 0.62 * H], fill=(18, 22, 26))
    d.line([x + 32 * FINE, 0.55 * H, x + 32 * FINE, 0.47 * H], (18, 22, 26), 2 * FINE)
    d.ellipse(
        [x + 26 * FINE, 0.56 * H, x + 31 * FINE, 0.57 * H],
        fill=(240, 80, 60) if blink else (80, 40, 36),
    )
    return image


def sump(f: int, n: int) -> Image.Image:
    t = f / n
    image = gradient((32, 118, 140), (8, 38, 56))
    x, y = (0.16 + 0.46 * t) * W, (0.48 + 0.06 * math.sin(f * 0.03)) * H
    beam(image, x + 52 * FINE, y, 0.10 * math.sin(f * 0.021), 1.5, 0.85)
    d = ImageDraw.Draw(image)
    rock(d, 0.7, 0.22, (6, 26, 40), t * 1.5, True)
    rock(d, 3.9, 0.17, (5, 20, 32), t * 2.0, False)
    bubbles(d, x + 36 * FINE, y - 20 * FINE, f, 7, (206, 236, 240))
    diver(d, x, y, 0.085, f * 0.26)
    for k in range(40):
        px = (math.sin(k * 91.7) * 0.5 + 0.5) * W - t * 190 * FINE * (1 + k % 3)
        py = (math.sin(k * 47.3) * 0.5 + 0.5) * H + math.sin(f * 0.03 + k) * 8 * FINE
        d.point([(px % W, py)], fill=(150, 200, 205))
        d.ellipse([px % W, py, px % W + 2 * FINE, py + 2 * FINE], fill=(96, 162, 172))
    if 240 <= f < 252:
        image = Image.blend(
            image, Image.new("RGB", image.size, (220, 236, 236)), 0.22 * (1 - (f - 240) / 12)
        )
    return image


def air_bell(f: int, n: int) -> Image.Image:
    t = f / n
    image = gradient((20, 26, 30), (46, 58, 62))
    d = ImageDraw.Draw(image)
    rise = min(1.0, f / 30)
    level = 0.60 * H
    beam(image, 0.46 * W, level - 30 * FINE * rise, -0.5 + 0.3 * t, 1.1, 0.6)
    d = ImageDraw.Draw(image)
    rock(d, 1.5, 0.30, (16, 20, 24), 0.03 * t, True)
    x, y = 0.46 * W, level + (1 - rise) * 60 * FINE
    d.ellipse([x - 24 * FINE, y - 44 * FINE, x + 24 * FINE, y + 12 * FINE], fill=AMBER)
    d.ellipse([x - 18 * FINE, y - 30 * FINE, x + 18 * FINE, y + 10 * FINE], fill=(206, 148, 110))
    d.rounded_rectangle(
        [x - 20 * FINE, y - 28 * FINE, x + 20 * FINE, y - 14 * FINE], 6 * FINE, (40, 70, 84)
    )
    xs = np.arange(0, W + 16, 16)
    far = np.abs(xs - x) / W
    swell = np.sin(xs / W * 22 - f * 0.16) * (3 + 9 * np.exp(-far * 6) * math.exp(-t * 3)) * FINE
    line = list(zip(xs.tolist(), (level + swell).tolist(), strict=True))
    d.polygon([*line, (W, H), (0, H)], fill=(20, 78, 98))
    d.line(line, (196, 226, 230), 2 * FINE)
    for k in range(4):
        drop = (f + k * 23) % 70
        dx = (0.15 + 0.22 * k) * W
        if drop < 20:
            d.ellipse(
                [dx, 0.30 * H + drop**2 * 0.9, dx + 4 * FINE, 0.30 * H + drop**2 * 0.9 + 8],
                fill=(170, 210, 216),
            )
        elif drop < 50:
            r = (drop - 20) * 2.2 * FINE
            d.ellipse(
                [dx - r, level - r * 0.14, dx + r, level + r * 0.14],
                outline=(120, 176, 188),
                width=FINE,
            )
    return image


def lamp_out(f: int, n: int) -> Image.Image:
    flicker = 1.0 if f < 50 else (0.2 if (f // 3) % 2 else 0.9) if f < 74 else 0.0
    image = gradient((5, 6, 8), (9, 10, 13))
    d = ImageDraw.Draw(image)
    x, y = 0.62 * W, 0.52 * H
    for k in range(10, 0, -1):
        r = (12 + 17 * k) * FINE
        glow = flicker * (11 - k) / 10
        d.ellipse(
            [x - r, y - r, x + r, y + r],
            fill=(int(6 + 96 * glow * 0.6), int(7 + 70 * glow * 0.6), int(9 + 34 * glow)),
        )
    r = 7 * FINE
    ember = max(0.12, flicker) if f < 90 else max(0.0, 0.12 - (f - 90) / 300)
    d.ellipse(
        [x - r, y - r, x + r, y + r], fill=(int(255 * ember), int(210 * ember), int(140 * ember))
    )
    return image


def title(f: int, n: int) -> Image.Image:
    image = Image.new("RGB", (W, H), (6, 14, 20))
    d = ImageDraw.Draw(image)
    # A sounding line goes down through depth contours.
    for k in range(9):
        x = np.arange(0, W + 16, 16)
        y = (0.62 + 0.05 * k) * H + np.sin(x / W * 5 + k * 0.7) * (10 + 3 * k) * FINE
        shade = 14 + 4 * k
        d.line(
            list(zip(x.tolist(), y.tolist(), strict=True)), (shade, shade + 24, shade + 32), FINE
        )
    fade = min(1.0, f / 25) if f < 240 else max(0.0, 1 - (f - 240) / 50)
    big = ImageFont.load_default(54 * FINE)
    small = ImageFont.load_default(17 * FINE)
    ink = tuple(int(c * fade) for c in (232, 226, 208))
    d.text((W / 2, 0.40 * H), "The Ninth Sump", ink, big, anchor="mm")
    d.text(
        (W / 2, 0.53 * H),
        "nobody had measured it",
        tuple(int(c * 0.6) for c in ink),
        small,
        anchor="mm",
    )
    drop = 0.60 * H + min(1.0, f / 200) * 0.34 * H
    d.line([W / 2, 0.58 * H, W / 2, drop], (120, 60, 96), FINE)
    d.ellipse(
        [W / 2 - 4 * FINE, drop - 4 * FINE, W / 2 + 4 * FINE, drop + 4 * FINE], fill=(200, 70, 140)
    )
    return image


SHOTS: list[Callable[[int, int], Image.Image]] = [
    dawn,
    crawl,
    chamber,
    pool,
    sump,
    air_bell,
    lamp_out,
    title,
]


def frame(index: int) -> bytes:
    """One frame as RGB bytes."""
    edges = [0, *CUTS, FRAMES]
    shot = next(i for i in range(len(SHOTS)) if index < edges[i + 1])
    image = SHOTS[shot](index - edges[shot], edges[shot + 1] - edges[shot])
    return image.resize((WIDTH, HEIGHT), Image.Resampling.LANCZOS).tobytes()


def make(path: Path) -> None:
    """Draw and encode all frames."""
    with (
        av.open(str(path), "w", options={"movflags": "faststart"}) as out,
        ProcessPoolExecutor() as pool_of_painters,
    ):
        video = out.add_stream("libx264", rate=FPS)
        video.width, video.height, video.pix_fmt = WIDTH, HEIGHT, "yuv420p"
        video.options = {"preset": "slow", "crf": "27", "bf": "0", "tune": "animation"}
        video.gop_size = 12
        video.time_base = Fraction(1, FPS)
        for i, pixels in enumerate(pool_of_painters.map(frame, range(FRAMES), chunksize=25)):
            array = np.frombuffer(pixels, np.uint8).reshape(HEIGHT, WIDTH, 3)
            picture = av.VideoFrame.from_ndarray(array, "rgb24")
            picture.pts, picture.time_base = i, Fraction(1, FPS)
            out.mux(video.encode(picture))
        out.mux(video.encode())
