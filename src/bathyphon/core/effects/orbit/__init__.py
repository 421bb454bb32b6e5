"""Orbit: a sound that moves around the head, for headphones and for loudspeakers."""
