"""The rate at which sounds are computed; files at other rates are resampled from it."""

RATE = 48_000
