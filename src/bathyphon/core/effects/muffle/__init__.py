"""Muffle: the sound as it is heard under water, behind a wall, inside a hood."""
