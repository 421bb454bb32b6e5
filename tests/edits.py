"""Applying edits in tests, and undoing and redoing all of them."""

import copy

from bathyphon.core.edits import apply_edit, parse_command
from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel.parse import read_reel


def apply(doc, **command):
    """One edit of a document."""
    return apply_edit(doc, read_reel(doc), parse_command(command))


def assert_all_is_undone_and_redone(start, commands):
    """Apply what is not refused; undo all to the identical document, redo all to the same end."""
    kept = copy.deepcopy(start)
    doc, journal = start, []
    for command in commands:
        try:
            edit = apply(doc, **command)
        except Refused:
            continue
        journal.append(edit)
        doc = edit.document
    end = copy.deepcopy(doc)
    for edit in reversed(journal):
        doc, forward = apply_patch(doc, edit.inverse)
        assert apply_patch(doc, forward)[0] == edit.document
    assert doc == start == kept
    for edit in journal:
        doc, _ = apply_patch(doc, edit.forward)
    assert doc == end
