"""Ring: the sound times a tone, which moves every part of it up and down by the tone's pitch."""
