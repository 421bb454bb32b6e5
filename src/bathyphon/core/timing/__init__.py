"""Time: samples, frames and timecode; shapes, keyframes and the values that they give."""
