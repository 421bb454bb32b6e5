"""Files in and out: sound, picture, reel.json."""
