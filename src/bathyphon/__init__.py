"""Bathyphon: keyframed audio effects under a picture timeline."""

from bathyphon.kernels import keep_kernels_apart, source_digest
from bathyphon.version import __version__

keep_kernels_apart()

ENGINE = f"{__version__}+{source_digest()}"
"""What sound was computed by: a browser must not play again what other sources have computed."""

__all__ = ["ENGINE", "__version__"]
