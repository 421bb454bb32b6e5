"""Phaser: notches that wander through the sound."""
