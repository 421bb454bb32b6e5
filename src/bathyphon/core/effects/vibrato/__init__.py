"""Vibrato: the pitch swings."""
