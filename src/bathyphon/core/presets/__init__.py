"""Presets of one's own: taken from a reel, used on any other place of any reel."""
