"""Compress: what is loud is brought nearer to what is quiet."""
