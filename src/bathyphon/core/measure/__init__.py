"""Figures about sound: loudness, true peak, decay times, peaks for drawing."""
