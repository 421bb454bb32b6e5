"""Gain: a level in dB that can move."""
