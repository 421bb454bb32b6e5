"""The engine: one graph of sound for live blocks and whole renders."""
