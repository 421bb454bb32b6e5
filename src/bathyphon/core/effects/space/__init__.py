"""Space: the sound in a place whose impulse response is known, by convolution."""
