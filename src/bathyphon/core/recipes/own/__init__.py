"""Recipes of one's own: taken from a selection, with the values that become questions."""
