"""The places that are shipped: rooms by their walls, and how long everything rings."""

from __future__ import annotations

from bathyphon.core.effects.space.images import Room, room_seconds
from bathyphon.core.effects.space.table import SPACES

_PLASTER = (0.12, 0.10, 0.08, 0.08, 0.09, 0.11, 0.14)
_FURNISHED = (0.14, 0.20, 0.28, 0.36, 0.42, 0.46, 0.50)
_TILES = (0.05, 0.05, 0.05, 0.055, 0.06, 0.07, 0.08)
_CONCRETE = (0.07, 0.07, 0.07, 0.08, 0.09, 0.10, 0.12)
_SEATS = (0.16, 0.20, 0.24, 0.26, 0.28, 0.30, 0.34)
_STONE = (0.10, 0.10, 0.11, 0.12, 0.13, 0.15, 0.18)
_ROCK = (0.14, 0.15, 0.17, 0.19, 0.22, 0.26, 0.32)
_WET_ROCK = (0.06, 0.07, 0.08, 0.10, 0.12, 0.15, 0.20)
_STEEL = (0.14, 0.11, 0.09, 0.08, 0.075, 0.075, 0.08)

ROOMS = {
    "cell": Room((2.6, 2.1, 2.4), _PLASTER, 11, 0.04),
    "parlour": Room((6.2, 4.4, 2.8), _FURNISHED, 12, 0.05),
    "washroom": Room((4.1, 2.9, 2.7), _TILES, 13, 0.05),
    "stairwell": Room((3.3, 5.2, 14.0), _CONCRETE, 14, 0.07),
    "playhouse": Room((28.0, 19.0, 11.0), _SEATS, 15, 0.10),
    "nave": Room((46.0, 17.0, 19.0), _STONE, 16, 0.12),
    "tank": Room((9.0, 9.0, 6.5), _STEEL, 17, 0.06),
    "air_bell": Room((3.8, 2.6, 1.6), _WET_ROCK, 18, 0.04),
    "cavern": Room((61.0, 33.0, 24.0), _ROCK, 19, 0.15),
}

BODY_SECONDS = {"plate": 3.2, "spring": 2.0, "pipe": 1.4, "barrel": 0.8}
"""Things that ring instead of rooms."""

assert (*ROOMS, *BODY_SECONDS) == SPACES


def seconds(name: str) -> float:
    """Length of a shipped response, known without computing it."""
    return BODY_SECONDS[name] if name in BODY_SECONDS else room_seconds(ROOMS[name])
