"""Footage whose cuts are known: drawn scenes, edited by chance, in small frames."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import zoom

H, W = 36, 64


@dataclass
class Footage:
    """Frames of shape (n, 36, 64, 3), the first frames of new shots, and soft cuts
    (first frame of the transition, its length, kind)."""

    frames: NDArray[np.uint8]
    hard: list[int] = field(default_factory=list)
    soft: list[tuple[int, int, str]] = field(default_factory=list)


@dataclass(frozen=True)
class Ways:
    """What films are made of; the finder was developed on these."""

    rates: tuple[float, ...] = (24, 25, 30, 48, 50, 60)
    noise: tuple[float, ...] = (0.0, 1.0, 3.0, 6.0)
    things: tuple[int, int] = (0, 4)
    shot_seconds: tuple[float, float] = (0.9, 4.0)
    # Motion in pixels a second of a picture 64 wide.
    drift: tuple[float, float] = (4, 4)
    pan: tuple[float, float] = (16, 16)
    whip: tuple[float, float] = (70, 70)
    # How far the camera is moved for a near-identical shot.
    like: tuple[float, float] = (3, 9)
    dissolve_seconds: tuple[float, float] = (0.4, 1.6)
    fade_seconds: tuple[float, float] = (0.3, 0.9)
    flash_light: tuple[float, float] = (60, 220)
    flash_seconds: float = 0.16
    # Cells across and depth of the layers of a backdrop.
    backdrop: tuple[tuple[int, float], ...] = ((4, 45), (10, 35), (30, 22), (70, 12))


DEVELOPED = Ways()
OUTSIDE = Ways(
    rates=(24000 / 1001, 30000 / 1001, 36, 60000 / 1001),
    noise=(0.5, 2.0, 4.5, 7.5),
    things=(1, 6),
    shot_seconds=(0.7, 7.0),
    drift=(1, 8),
    pan=(10, 26),
    whip=(40, 85),
    like=(3.5, 14),
    dissolve_seconds=(0.35, 2.0),
    fade_seconds=(0.25, 1.2),
    flash_light=(40, 255),
    flash_seconds=0.2,
    backdrop=((3, 30), (14, 45), (24, 18), (90, 9)),
)


class Scene:
    """A wide backdrop with things in it, of which a frame is a window."""

    def __init__(
        self, rng: np.random.Generator, like: Scene | None = None, ways: Ways = DEVELOPED
    ) -> None:
        if like is None:
            self.big = self._backdrop(rng, ways)
            self.noise = float(rng.choice(ways.noise))
            self.things = [self._thing(rng) for _ in range(rng.integers(*ways.things))]
        else:
            # The same set, the camera and the people elsewhere.
            self.big = like.big
            self.noise = like.noise
            self.things = [self._thing(rng) for _ in range(max(2, len(like.things)))]
        self.at = rng.uniform([10, 20], [40, 120])
        if like is not None:
            self.at = like.at + rng.choice([-1, 1], 2) * rng.uniform(*ways.like, 2)
        self.gain = rng.uniform(0.9, 1.1)

    @staticmethod
    def _backdrop(rng: np.random.Generator, ways: Ways) -> NDArray[np.float64]:
        out = np.zeros((100, 260, 3)) + rng.uniform(30, 190, 3)
        for cells, depth in ways.backdrop:
            coarse = rng.standard_normal((cells, cells * 2, 3)) * 0.5
            coarse += rng.standard_normal((cells, cells * 2, 1))
            factor = (100 / cells, 260 / (cells * 2), 1)
            out += depth * zoom(coarse, factor, order=1)[:100, :260]
        return out

    @staticmethod
    def _thing(rng: np.random.Generator) -> dict[str, NDArray[np.float64]]:
        return {
            "at": rng.uniform([0, 0], [H, W]),
            "speed": rng.uniform(-0.5, 0.5, 2),
            "size": rng.uniform([4, 4], [14, 14]),
            "colour": rng.uniform(10, 245, 3),
        }

    def shoot(
        self, rng: np.random.Generator, count: int, pan: tuple[float, float] = (0.0, 0.0)
    ) -> NDArray[np.float64]:
        out = np.empty((count, H, W, 3))
        at = self.at.copy()
        for k in range(count):
            y, x = np.clip(at, [0, 0], [100 - H - 2, 260 - W - 2])
            iy, ix = int(y), int(x)
            fy, fx = y - iy, x - ix
            big = self.big
            image = (
                (1 - fy) * (1 - fx) * big[iy : iy + H, ix : ix + W]
                + (1 - fy) * fx * big[iy : iy + H, ix + 1 : ix + W + 1]
                + fy * (1 - fx) * big[iy + 1 : iy + H + 1, ix : ix + W]
                + fy * fx * big[iy + 1 : iy + H + 1, ix + 1 : ix + W + 1]
            )
            for thing in self.things:
                h, w = thing["size"]
                # It goes out of the picture on one side before it comes in on the other.
                cy, cx = (thing["at"] + thing["speed"] * k) % [H + h, W + w] - [h, w]
                rows, columns = (
                    (max(0, int(c)), max(0, int(c + n))) for c, n in ((cy, h), (cx, w))
                )
                image[slice(*rows), slice(*columns)] = thing["colour"]
            out[k] = image * self.gain
            at += pan
        return out + self.noise * rng.standard_normal(out.shape)


def edited(
    rng: np.random.Generator, fps: float, shots: int = 24, ways: Ways = DEVELOPED
) -> Footage:
    """A film of hard cuts, dissolves, fades, flashes, pans, noise and near-identical shots."""
    parts: list[NDArray[np.float64]] = []
    hard: list[int] = []
    soft: list[tuple[int, int, str]] = []
    at = 0
    scene = Scene(rng, ways=ways)
    for k in range(shots):
        seconds = rng.uniform(*ways.shot_seconds)
        count = round(seconds * fps)
        move = rng.choice(["still", "still", "pan", "whip", "drift"])
        speed = 0.0 if move == "still" else rng.uniform(*getattr(ways, move)) / fps
        angle = rng.uniform(0, 2 * np.pi)
        pan = (0.4 * speed * np.sin(angle), speed * np.cos(angle))
        body = scene.shoot(rng, count, pan)
        if rng.random() < 0.35:
            body = flashed(rng, body, fps, ways)
        parts.append(body)
        at += count
        if k == shots - 1:
            break
        join = rng.choice(["hard", "hard", "hard", "like", "dissolve", "fade"])
        following = Scene(rng, scene if join == "like" else None, ways)
        if join in ("hard", "like"):
            hard.append(at)
        elif join == "dissolve":
            length = round(rng.uniform(*ways.dissolve_seconds) * fps)
            u = ((np.arange(length) + 1) / (length + 1))[:, None, None, None]
            held = parts[-1][-1]
            mixed = (1 - u) * held + u * following.shoot(rng, 1)[0]
            parts.append(mixed + following.noise * rng.standard_normal(mixed.shape))
            soft.append((at, length, "dissolve"))
            at += length
        else:
            length = round(rng.uniform(*ways.fade_seconds) * fps)
            down = np.linspace(1, 0, length)[:, None, None, None]
            up = np.linspace(0, 1, length)[:, None, None, None]
            rest = np.zeros((round(0.2 * fps), H, W, 3))
            parts += [parts[-1][-1] * down, rest, following.shoot(rng, 1)[0] * up]
            whole = 2 * length + len(rest)
            soft.append((at, whole, "fade"))
            at += whole
        scene = following
    frames = np.concatenate(parts)
    return Footage(np.clip(frames, 0, 255).astype(np.uint8), hard, soft)


def montage(rng: np.random.Generator, fps: float, ways: Ways = DEVELOPED) -> Footage:
    """A run of shots of 3 to 6 frames, still or moving, between two that are longer."""
    lengths = [40, *rng.integers(3, 7, rng.integers(8, 25)), 40]
    parts = []
    for length in lengths:
        speed, angle = rng.choice([0, 4, 16]) / fps, rng.uniform(0, 2 * np.pi)
        pan = (0.4 * speed * np.sin(angle), speed * np.cos(angle))
        parts.append(Scene(rng, ways=ways).shoot(rng, int(length), pan))
    frames = np.concatenate(parts)
    hard = np.cumsum(lengths)[:-1].tolist()
    return Footage(np.clip(frames, 0, 255).astype(np.uint8), hard)


def flashed(
    rng: np.random.Generator, body: NDArray[np.float64], fps: float, ways: Ways = DEVELOPED
) -> NDArray[np.float64]:
    """The shot with one or two flashes of light in it."""
    body = body.copy()
    for _ in range(rng.integers(1, 3)):
        length = int(rng.integers(1, max(2, round(ways.flash_seconds * fps)) + 1))
        if len(body) < length + 24:
            continue
        at = int(rng.integers(10, len(body) - length - 10))
        bright = rng.uniform(*ways.flash_light)
        fall = np.linspace(1, 0.4, length)[:, None, None, None]
        body[at : at + length] += bright * fall
    return body
