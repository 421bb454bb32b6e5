"""Bathyphon: keyframed audio effects under a picture timeline."""

__version__ = "0.1.0"

from bathyphon.kernels import keep_kernels_apart, source_digest

keep_kernels_apart()

ENGINE = f"{__version__}+{source_digest()}"
"""What sound was computed by: what other sources have computed is not used again."""
