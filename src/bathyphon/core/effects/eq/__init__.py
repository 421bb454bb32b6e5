"""Equaliser: up to eight bands, each a cut, a shelf, a peak or a notch."""
