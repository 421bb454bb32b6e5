"""Flanger and chorus: copies of the sound whose delay swings."""
