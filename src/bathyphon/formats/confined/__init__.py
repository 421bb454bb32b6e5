"""Decoders see one file and one folder, and reach nothing else."""
