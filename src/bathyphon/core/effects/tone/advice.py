"""What to listen for, where to begin, and when not to; common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.advice import Advice

ADVICE = Advice(
    listen="Weight below, air above, in one turn of the hand.",
    start="±3 dB; bass up and treble down to the stops for a plunge.",
    avoid="A single fault, such as hum: the equaliser takes that out alone.",
)
