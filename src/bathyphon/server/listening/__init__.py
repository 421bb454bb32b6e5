"""Comparing, measuring and judging reels."""
