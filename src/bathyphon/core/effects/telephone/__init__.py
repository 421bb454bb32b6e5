"""Telephone: a voice on a line, a two-way radio, a small loudspeaker, a horn."""
