"""The threads in which sound is worked out, in turn (:mod:`bathyphon.server.sound.turns`)."""

from concurrent.futures import ThreadPoolExecutor

THREADS = 64
"""Requests that wait or are worked out at a time. Most of them wait."""
AT_ONCE = 16
"""The same of what must be heard at once: it never stands behind what can wait."""

threads = ThreadPoolExecutor(THREADS, "sound")
at_once = ThreadPoolExecutor(AT_ONCE, "at-once")
