"""The threads in which sound is worked out."""

from concurrent.futures import ThreadPoolExecutor

THREADS = 32
"""Requests that wait or are worked out at a time. Most of them wait: one works for each reel."""

threads = ThreadPoolExecutor(THREADS, "sound")
