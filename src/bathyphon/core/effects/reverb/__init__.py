"""Reverb: a room whose decay time is the one that is set, ringing out past a cut."""
