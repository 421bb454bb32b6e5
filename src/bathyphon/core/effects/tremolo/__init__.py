"""Tremolo: the level swings."""
