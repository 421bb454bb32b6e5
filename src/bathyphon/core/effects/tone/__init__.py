"""Tone: bass and treble, up or down."""
