"""Limit: no peak above a ceiling, not even between the samples."""
