"""Drive: an amplifier, a loudspeaker or a tape that is asked for too much."""
