"""Chorus: three wavering copies a side, so that one sounds like many."""
