"""The web server: accounts, reels, media, sound blocks, exports, events."""
