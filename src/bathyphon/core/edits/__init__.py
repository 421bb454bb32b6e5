"""Edits: typed commands, applied by pure functions, remembered as JSON Patches."""

from bathyphon.core.edits.apply import Edit, apply_edit, apply_edits, offer_after
from bathyphon.core.edits.commands import Command, parse_command

__all__ = ["Command", "Edit", "apply_edit", "apply_edits", "offer_after", "parse_command"]
