"""Areas under keyframed curves: where a moving speed has got to.

Every shape of a segment has an integral in closed form, and so have its square and cube, of which
softened ends are made. The short glide that stands for a step is integrated by Gauss and Legendre's
rule, which is exact to rounding for shapes as smooth as these.
"""

from __future__ import annotations

import numpy as np
from numpy.polynomial import Polynomial
from numpy.polynomial.legendre import leggauss

from bathyphon.core.arrays import Floats
from bathyphon.core.timing.curves import Curve, Keyframe
from bathyphon.core.timing.shapes import SHAPES, eased_at, glide_samples

_NODES, _WEIGHTS = leggauss(24)
_POLYNOMIALS = {"linear": [0.0, 1.0], "smooth": [0.0, 0.0, 3.0, -2.0]}
_AREAS = {
    (name, n): (Polynomial(shape) ** n).integ()
    for name, shape in _POLYNOMIALS.items()
    for n in (1, 2, 3)
}


def shape_area(ease: str, bend: float, soft: float, u: Floats) -> Floats:
    """Area under a shape from 0 to ``u`` in [0, 1], softened as keyframes soften it.

    Parameters
    ----------
    ease : {"hold", "linear", "smooth", "equal_power", "log", "bend"}
    bend, soft : float
        As in :class:`~bathyphon.core.timing.curves.Keyframe`.
    u : ndarray of float64
    """
    area = _power_area(ease, bend, 1, u)
    if soft == 0.0 or ease == "hold":
        return area
    soft_area = 3.0 * _power_area(ease, bend, 2, u) - 2.0 * _power_area(ease, bend, 3, u)
    return area + soft * (soft_area - area)


def _power_area(ease: str, bend: float, n: int, u: Floats) -> Floats:
    """Integral of the n-th power of a shape from 0 to ``u``."""
    if ease == "hold":
        return np.zeros_like(u)
    if ease == "equal_power":
        a = 0.5 * np.pi
        if n == 1:
            return np.asarray((1.0 - np.cos(a * u)) / a)
        if n == 2:
            return np.asarray(0.5 * u - np.sin(2.0 * a * u) / (4.0 * a))
        c = np.cos(a * u)
        return np.asarray((2.0 / 3.0 - c + c**3 / 3.0) / a)
    if ease == "log":
        # ((e^(bu) − 1) / 99)^n, multiplied out.
        b = 2.0 * np.log(10.0)
        e = [np.asarray(np.expm1(k * b * u) / (k * b)) for k in (1, 2, 3)]
        whole = (e[0] - u, e[1] - 2 * e[0] + u, e[2] - 3 * e[1] + 3 * e[0] - u)[n - 1]
        return np.asarray(whole / 99.0**n)
    if ease == "bend":
        p = n * 4.0**bend
        return np.asarray(u ** (p + 1.0) / (p + 1.0))
    return np.asarray(_AREAS[ease, n](u))


class CurveArea:
    """The integral of a curve over samples, from sample 0 on.

    Parameters
    ----------
    curve : Curve
        In a linear scale.
    sample_rate : int
        Sets the length of the glide that stands for a step.
    """

    def __init__(self, curve: Curve, sample_rate: int) -> None:
        self._frames = curve.keyframes
        self._at = np.array([k.at for k in self._frames], np.float64)
        self._glide = float(glide_samples(sample_rate))
        self._lost: dict[int, float] = {}
        whole = [0.0]
        for i in range(len(self._frames) - 1):
            whole.append(whole[-1] + float(self._within(i, self._at[i + 1 : i + 2])[0]))
        self._before = np.array(whole)
        self._zero = 0.0
        self._zero = float(self.at(np.zeros(1))[0])

    def at(self, t: Floats) -> Floats:
        """Area from 0 to each of ``t``, in units of the curve times samples."""
        t = np.asarray(t, np.float64)
        segment = np.searchsorted(self._at, t, side="right") - 1
        out = np.empty(t.shape)
        for i in np.unique(segment):
            here = segment == i
            if i < 0:
                out[here] = (t[here] - self._at[0]) * self._frames[0].value
            else:
                out[here] = self._before[i] + self._within(int(i), t[here])
        return out - self._zero

    def _within(self, i: int, t: Floats) -> Floats:
        """Area from the i-th keyframe to places that lie before the next."""
        frame = self._frames[i]
        after = self._frames[i + 1] if i + 1 < len(self._frames) else None
        area = self._plain(frame, after, t)
        before = self._frames[i - 1] if i else None
        if before is None or before.ease != "hold" or before.value == frame.value:
            return area
        # A step glides for a moment: what it lacks of the plain curve is taken off.
        end = frame.at + self._glide
        if after is not None:
            end = min(end, after.at)
        if i not in self._lost:
            self._lost[i] = float(self._lacking(frame, after, before.value, np.array([end]))[0])
        lacking = np.full(t.shape, self._lost[i])
        within = t < end
        if within.any():
            lacking[within] = self._lacking(frame, after, before.value, t[within])
        return np.asarray(area - lacking)

    def _lacking(self, frame: Keyframe, after: Keyframe | None, before: float, t: Floats) -> Floats:
        """What the glide from a value lacks of the plain curve, from the keyframe to ``t``."""
        half = 0.5 * (t - frame.at)
        u = frame.at + half[:, None] * (_NODES + 1.0)
        s = (u - frame.at) / self._glide
        step = self._value(frame, after, u) - before
        return np.asarray(half * ((1.0 - s * s * (3.0 - 2.0 * s)) * step * _WEIGHTS).sum(axis=-1))

    @staticmethod
    def _plain(frame: Keyframe, after: Keyframe | None, t: Floats) -> Floats:
        area = (t - frame.at) * frame.value
        if after is None or frame.ease == "hold":
            return area
        length = after.at - frame.at
        u = (t - frame.at) / length
        shape = shape_area(frame.ease, frame.bend, frame.soft, u)
        return np.asarray(area + length * (after.value - frame.value) * shape)

    @staticmethod
    def _value(frame: Keyframe, after: Keyframe | None, t: Floats) -> Floats:
        if after is None or frame.ease == "hold":
            return np.full(t.shape, frame.value)
        u = (t - frame.at) / (after.at - frame.at)
        shape = SHAPES[frame.ease]
        eased = [eased_at(shape, frame.bend, frame.soft, x) for x in u.ravel().tolist()]
        s = np.array(eased).reshape(u.shape)
        return np.asarray(frame.value + s * (after.value - frame.value))
