"""Times of an echo in metres, of the way to the wall that it seems to come from."""

from __future__ import annotations

from collections.abc import Mapping

from bathyphon.core.effects.echo.distance import milliseconds_per_metre
from bathyphon.core.effects.echo.table import MEDIA, TABLE


def lengths(values: Mapping[str, float | str]) -> Mapping[str, float]:
    """Milliseconds of one metre, in the medium and at the temperature that are set."""
    temperature = TABLE.parameter("temperature_c")
    warm = values.get("temperature_c", temperature.default if temperature else None)
    return {"m": milliseconds_per_metre(str(values.get("medium", MEDIA[0])), float(warm or 0.0))}
