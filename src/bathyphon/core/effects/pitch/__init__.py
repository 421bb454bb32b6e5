"""Pitch: higher or lower in the same time, formants going along or staying."""
