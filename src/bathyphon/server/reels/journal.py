"""Every change of a reel: edits, undo and redo, each a new revision."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404

from bathyphon.core.edits import Command, apply_edits, offer_after, parse_command
from bathyphon.core.edits.offer import Offer
from bathyphon.core.edits.patch import Patch, apply_patch, disturbs
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.reel.parse import read_reel
from bathyphon.server.notify import tell
from bathyphon.server.reels.head import Head, head_of, remember
from bathyphon.server.reels.listing import shown_of
from bathyphon.server.reels.models import JournalEntry, Membership, Reel, Snapshot
from bathyphon.server.reels.rights import let_change

SNAPSHOT_EVERY = 100
TOGETHER = "together"
"""What several commands that are one edit are called in the journal."""


class Conflict(Exception):
    """The reel has moved on in a way that the request did not know of."""

    def __init__(self, message: str, revision: int) -> None:
        super().__init__(message)
        self.revision = revision


@transaction.atomic
def create_reel(account: User, document: Document) -> Reel:
    """A new reel of an account."""
    typed = read_reel(document)
    reel = Reel.objects.create(name=document.get("name") or "Untitled", **shown_of(typed))
    Membership.objects.create(reel=reel, account=account)
    Snapshot.objects.create(reel=reel, revision=0, packed=Snapshot.pack(document))
    return reel


def edit(
    account: User, reel_id: UUID, edit_id: UUID, base: int, data: list[dict[str, Any]]
) -> tuple[JournalEntry, Offer | None]:
    """Apply commands, as one edit, that were made while looking at revision ``base``.

    A repeated ``edit_id`` applies once. If others have edited since, it is applied to the
    newest revision, provided it changes nothing that they changed.

    Returns
    -------
    JournalEntry
    Offer or None
        What one may go on to; not said again of a repeated edit.

    Raises
    ------
    Conflict
        If it would overwrite what another window changed meanwhile.
    Refused
        If it cannot be carried out.
    """
    # Nobody waits while they are read.
    commands = [parse_command(command) for command in data]
    said = data[0] if len(data) == 1 else {"kind": TOGETHER, "commands": data}
    return _edit(account, reel_id, edit_id, base, said, commands)


@transaction.atomic
def _edit(
    account: User, reel_id: UUID, edit_id: UUID, base: int, said: dict[str, Any],
    commands: list[Command],
) -> tuple[JournalEntry, Offer | None]:  # fmt: skip
    reel = _locked(account, reel_id)
    done = reel.journal.filter(edit_id=edit_id).first()
    if done is not None:
        return done, None
    if base > reel.revision:
        raise Refused("this edit is based on a revision that does not exist", "base")
    head = head_of(reel.pk, reel.revision)
    result = apply_edits(head.document, head.reel, commands)
    newer = reel.journal.filter(revision__gt=base).values_list("touches", flat=True)
    if any(disturbs(result.touches, touches) for touches in newer):
        raise Conflict(
            "Another window has changed the same thing meanwhile; yours was not applied.",
            reel.revision,
        )
    if not result.forward:
        return _unchanged(reel, account, edit_id, result.title), None
    revision = reel.revision + 1
    entry = JournalEntry(
        reel=reel,
        revision=revision,
        edit_id=edit_id,
        account=account,
        title=result.title[:500],
        command=said,
        forward=result.forward,
        inverse=result.inverse,
        touches=result.touches,
        undo_next=revision,
        redo_next=None,
    )
    entry = _append(reel, entry, Head(revision, result.document, result.reel))
    return entry, offer_after(commands, head.document, result)


def undo(account: User, reel_id: UUID, edit_id: UUID, expect: int) -> JournalEntry:
    """Undo the edit of revision ``expect``, which must be the one that undo would reach."""
    return back_to(account, reel_id, edit_id, expect, expect - 1)


@transaction.atomic
def back_to(
    account: User, reel_id: UUID, edit_id: UUID, expect: int, revision: int
) -> JournalEntry:
    """Undo, as one step, all that was done after ``revision``; redo brings all of it back.

    Parameters
    ----------
    account : User
    reel_id, edit_id : UUID
    expect : int
        The revision that undo would reach now.
    revision : int
        The edit that is to be the last that holds.
    """
    reel = _locked(account, reel_id)
    done = reel.journal.filter(edit_id=edit_id).first()
    if done is not None:
        return done
    newest = _newest(reel)
    if newest is None or newest.undo_next != expect or expect <= revision:
        raise Conflict("Something else was done last; look at the history.", reel.revision)
    undone: list[JournalEntry] = []
    at: int | None = expect
    while at is not None and at > revision:
        undone.append(reel.journal.get(revision=at))
        before = reel.journal.filter(revision=at - 1).first()
        at = before.undo_next if before else None
    if len(undone) == 1:
        target = undone[0]
    else:
        # What was done after it, as if it had been one edit.
        target = JournalEntry(
            reel=reel,
            revision=undone[0].revision,
            title=f"{len(undone)} edits",
            forward=[step for entry in reversed(undone) for step in entry.forward],
            inverse=[step for entry in undone for step in entry.inverse],
            touches=sorted({place for entry in undone for place in entry.touches}),
        )
    return _turn(
        reel,
        account,
        edit_id,
        JournalEntry.UNDO,
        target,
        undo_next=at,
        redo_next=reel.revision + 1,
    )


@transaction.atomic
def redo(account: User, reel_id: UUID, edit_id: UUID, expect: int) -> JournalEntry:
    """Redo what the undo of revision ``expect`` took back."""
    reel = _locked(account, reel_id)
    done = reel.journal.filter(edit_id=edit_id).first()
    if done is not None:
        return done
    newest = _newest(reel)
    if newest is None or newest.redo_next is None or newest.redo_next != expect:
        raise Conflict("There is nothing of that kind to redo any more.", reel.revision)
    undone = reel.journal.get(revision=newest.redo_next)
    before = reel.journal.filter(revision=undone.revision - 1).first()
    return _turn(
        reel,
        account,
        edit_id,
        JournalEntry.REDO,
        undone,
        undo_next=undone.command["revision"],
        redo_next=before.redo_next if before else None,
    )


def history_ends(
    reel: Reel, newest: JournalEntry | None = None
) -> tuple[JournalEntry | None, JournalEntry | None]:
    """The entries that undo and redo would act upon.

    Parameters
    ----------
    reel : Reel
    newest : JournalEntry, optional
        Its newest entry, where that is known.
    """
    newest = newest or _newest(reel)
    if newest is None:
        return None, None
    found = {newest.revision: newest}
    others = {r for r in (newest.undo_next, newest.redo_next) if r and r != newest.revision}
    if others:
        # Patches may be large, and nobody asks these for them.
        entries = reel.journal.filter(revision__in=others).select_related("account")
        bare = entries.defer("forward", "inverse", "command", "touches")
        found |= {entry.revision: entry for entry in bare}
    return found.get(newest.undo_next or 0), found.get(newest.redo_next or 0)


def _turn(
    reel: Reel,
    account: User,
    edit_id: UUID,
    kind: str,
    turned: JournalEntry,
    undo_next: int | None,
    redo_next: int | None,
) -> JournalEntry:
    """Append the inverse of an entry: the undoing of an edit, or the redoing of an undo."""
    head = head_of(reel.pk, reel.revision)
    patch: Patch = turned.inverse
    document, _ = apply_patch(head.document, patch)
    entry = JournalEntry(
        reel=reel,
        revision=reel.revision + 1,
        edit_id=edit_id,
        account=account,
        kind=kind,
        title=turned.title,
        command={"kind": kind, "revision": turned.revision},
        forward=turned.inverse,
        inverse=turned.forward,
        touches=turned.touches,
        undo_next=undo_next,
        redo_next=redo_next,
    )
    return _append(
        reel, entry, Head(entry.revision, document, read_reel(document, (head.document, head.reel)))
    )


def _append(reel: Reel, entry: JournalEntry, head: Head) -> JournalEntry:
    entry.save(force_insert=True)
    reel.revision = entry.revision
    reel.name = head.reel.name or "Untitled"
    for field, value in shown_of(head.reel).items():
        setattr(reel, field, value)
    reel.save(update_fields=["revision", "name", "changed", "seconds", "picture"])
    if entry.revision % SNAPSHOT_EVERY == 0:
        packed = Snapshot.pack(head.document)
        Snapshot.objects.create(reel=reel, revision=entry.revision, packed=packed)
    for account in reel.memberships.values_list("account_id", flat=True):
        tell(account, "reel", reel=str(reel.pk), revision=entry.revision)
    # Only what is committed may be remembered.
    transaction.on_commit(lambda: remember(reel.pk, head) and None)
    return entry


def _unchanged(reel: Reel, account: User, edit_id: UUID, title: str) -> JournalEntry:
    return JournalEntry(
        reel=reel,
        revision=reel.revision,
        edit_id=edit_id,
        account=account,
        title=title,
        command={},
        forward=[],
        inverse=[],
        touches=[],
    )


def _locked(account: User, reel_id: UUID) -> Reel:
    reel = Reel.visible_to(account).select_for_update(of=("self",)).filter(pk=reel_id).first()
    if reel is None:
        raise Http404
    let_change(account, reel)
    return reel


def _newest(reel: Reel) -> JournalEntry | None:
    # Its patches may be large, and nobody asks the newest entry for them.
    entries = reel.journal.order_by("-revision").select_related("account")
    return entries.defer("forward", "inverse").first()
