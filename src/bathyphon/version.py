"""The version, for all that must not know more of the package."""

__version__ = "0.1.0"
