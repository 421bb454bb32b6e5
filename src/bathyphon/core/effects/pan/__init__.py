"""Pan: where a sound lies between left and right, and how wide it is."""
