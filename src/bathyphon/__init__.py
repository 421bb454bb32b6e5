"""Bathyphon: keyframed audio effects under a picture timeline."""

__version__ = "0.1.0"
