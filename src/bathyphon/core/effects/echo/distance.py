"""How far sound goes in a time: the distance of the wall that an echo seems to come from."""

from __future__ import annotations


def sound_speed(medium: str, temperature_c: float) -> float:
    """Speed of sound in m/s in air or in fresh water, at a temperature in °C.

    Air: the linear approximation of acoustics handbooks. Water: V. A. Del Grosso and C. W. Mader,
    "Speed of sound in pure water", J. Acoust. Soc. Am. 52, 1972, to the third power.

    Examples
    --------
    >>> round(sound_speed('air', 20.0), 1)
    343.4
    """
    t = temperature_c
    if medium == "water":
        return 1402.388 + 5.03711 * t - 0.0580852 * t**2 + 0.0003342 * t**3
    return 331.3 + 0.606 * t


def milliseconds_per_metre(medium: str, temperature_c: float) -> float:
    """Time in ms that an echo takes for each metre to the wall: there and back.

    Examples
    --------
    >>> round(milliseconds_per_metre('water', 10.0), 2)
    1.38
    """
    return 2000.0 / sound_speed(medium, temperature_c)
