"""Bathyphon: keyframed audio effects under a picture timeline."""

__version__ = "0.1.0"

from bathyphon.kernels import keep_kernels_apart

keep_kernels_apart()
