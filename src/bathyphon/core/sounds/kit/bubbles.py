"""A bubble in water: its pitch and how fast it dies away follow from its size alone."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats

MINNAERT = 3.26
"""Pitch times radius, in metres a second, near the surface (Minnaert, 1933)."""


def bubble(radius: Floats) -> tuple[Floats, Floats]:
    """Pitch in Hz and decay in nepers a second of bubbles of a radius in metres.

    Decay by radiation, heat and viscosity as van den Doel, “Physically based models for liquid
    sounds” (2005), puts them together.
    """
    return np.asarray(MINNAERT / radius), np.asarray(0.13 / radius + 0.0072 * radius**-1.5)
