"""What sounds at any place of a reel, as columns over time, to be drawn and read."""
