"""Harmony: up to eight voices at other pitches beside the direct sound."""
