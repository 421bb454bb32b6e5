"""Bathyphon: keyframed audio effects under a picture timeline."""

from bathyphon.kernels import keep_kernels_apart
from bathyphon.version import __version__

keep_kernels_apart()

__all__ = ["__version__"]
