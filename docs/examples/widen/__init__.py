"""Widen: a sound that is broader than it came, and the same when it is heard in mono."""
