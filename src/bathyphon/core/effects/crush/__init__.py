"""Crush: fewer bits and fewer samples, as of old machines."""
