"""Reels, who may see them, their journal and snapshots."""

from __future__ import annotations

import json
import uuid
import zlib

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models

from bathyphon.core.reel.model import Document


class Reel(models.Model):
    """A reel's head row; the document lives in snapshots and the journal."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=400)
    revision = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    trashed = models.DateTimeField(null=True, blank=True)
    # What the list of reels shows without reading documents; unknown until the first edit.
    seconds = models.FloatField(null=True, blank=True)
    picture = models.CharField(max_length=80, blank=True, default="")

    @staticmethod
    def visible_to(account: User) -> models.QuerySet[Reel]:
        """The one query through which all access passes."""
        return Reel.objects.filter(memberships__account=account, trashed__isnull=True)

    @staticmethod
    def trashed_by(account: User) -> models.QuerySet[Reel]:
        """What can still be brought back from the trash."""
        return Reel.objects.filter(
            memberships__account=account,
            memberships__role=Membership.OWNER,
            trashed__isnull=False,
        )


class Membership(models.Model):
    """An account's right to a reel: who made it owns it."""

    OWNER, EDITOR, VIEWER = "owner", "editor", "viewer"

    reel = models.ForeignKey(Reel, on_delete=models.CASCADE, related_name="memberships")
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    role = models.CharField(max_length=20, default=OWNER)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["reel", "account"], name="one_membership_each")
        ]


class Snapshot(models.Model):
    """A whole document, compressed, at one revision."""

    reel = models.ForeignKey(Reel, on_delete=models.CASCADE, related_name="snapshots")
    revision = models.PositiveIntegerField()
    packed = models.BinaryField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["reel", "revision"], name="one_snapshot_a_revision")
        ]

    @staticmethod
    def pack(document: Document) -> bytes:
        """Compress a document."""
        return zlib.compress(json.dumps(document, ensure_ascii=False).encode(), 6)

    def document(self) -> Document:
        """The document."""
        found: Document = json.loads(zlib.decompress(bytes(self.packed)))
        return found


class JournalEntry(models.Model):
    """One revision: an edit, or the undoing or redoing of one.

    ``undo_next`` and ``redo_next`` are the revisions that undo and redo would act upon from here.
    """

    EDIT, UNDO, REDO = "edit", "undo", "redo"

    reel = models.ForeignKey(Reel, on_delete=models.CASCADE, related_name="journal")
    revision = models.PositiveIntegerField()
    edit_id = models.UUIDField()
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made = models.DateTimeField(auto_now_add=True)
    kind = models.CharField(max_length=10, default=EDIT)
    title = models.CharField(max_length=500)
    command = models.JSONField()
    forward = models.JSONField()
    inverse = models.JSONField()
    touches = models.JSONField()
    undo_next = models.PositiveIntegerField(null=True)
    redo_next = models.PositiveIntegerField(null=True)

    class Meta:
        ordering = ["revision"]
        constraints = [
            models.UniqueConstraint(fields=["reel", "revision"], name="one_entry_a_revision"),
            models.UniqueConstraint(fields=["reel", "edit_id"], name="one_entry_an_edit"),
        ]
