"""Media of accounts, and the blobs that hold their bytes."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models

from bathyphon.formats.names import sound_name


class Blob(models.Model):
    """A file's content, stored once under its hash."""

    digest = models.CharField(max_length=64, primary_key=True)
    size = models.BigIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    @property
    def name(self) -> str:
        """Its name in the storage."""
        return f"{self.digest[:2]}/{self.digest}"

    @property
    def prepared(self) -> Path:
        """Folder of all that is computed from the bytes."""
        return Path(settings.DATA) / "prepared" / self.digest[:2] / self.digest


def known_ids(ids: Iterable[str]) -> dict[uuid.UUID, str]:
    """Those ids of a document that can be a row's, and what the document calls them."""
    found = {}
    for id in ids:
        with suppress(ValueError):
            found[uuid.UUID(id)] = id
    return found


class Upload(models.Model):
    """A file on its way in; how far it has come is the size of what lies on disk."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=400)
    size = models.BigIntegerField()
    rate = models.PositiveIntegerField(default=48000)
    # What it holds: a medium, or something that another application has said it takes.
    holds = models.CharField(max_length=20, default="medium")
    folder = models.CharField(max_length=400, blank=True, default="")
    media = models.ForeignKey("Media", null=True, on_delete=models.SET_NULL)
    made = models.UUIDField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    @property
    def path(self) -> Path:
        """Where its bytes are collected."""
        return Path(settings.DATA) / "uploads" / str(self.pk)

    @property
    def complete(self) -> bool:
        """Whether all has arrived and been taken in."""
        return self.media_id is not None or self.made is not None

    @property
    def offset(self) -> int:
        """Bytes that have arrived."""
        if self.complete:
            return self.size
        return self.path.stat().st_size if self.path.exists() else 0


class Media(models.Model):
    """A file that an account has brought in."""

    WAITING, PREPARING, READY = "waiting", "preparing", "ready"
    FAILED, CANCELLED = "failed", "cancelled"
    OPEN = (WAITING, PREPARING)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT)
    name = models.CharField(max_length=400)
    rate = models.PositiveIntegerField(default=48000)
    stream = models.PositiveSmallIntegerField(default=0)
    state = models.CharField(max_length=20, default=WAITING)
    progress = models.FloatField(default=0.0)
    error = models.CharField(max_length=500, blank=True)
    info = models.JSONField(default=dict)
    created = models.DateTimeField(auto_now_add=True)
    trashed = models.DateTimeField(null=True, blank=True)
    # A sound of one's own lies on the shelf of all reels; it is listed with the account's media
    # once a reel uses it. What it is found by is kept together.
    own = models.BooleanField(default=False)
    listed = models.BooleanField(default=True)
    folder = models.CharField(max_length=400, blank=True, default="")
    tags = models.JSONField(default=list)
    words = models.TextField(blank=True, default="")

    class Meta:
        verbose_name_plural = "media"
        indexes = [
            models.Index(
                fields=["account", "folder", "name"],
                condition=models.Q(own=True),
                name="own_sounds",
            )
        ]

    @staticmethod
    def visible_to(account: User) -> models.QuerySet[Media]:
        """The one query through which all access passes."""
        return Media.objects.filter(account=account, trashed__isnull=True).select_related("blob")

    @property
    def sound_path(self) -> Path:
        """The conformed sound."""
        return self.sound_at(self.rate)

    def sound_at(self, rate: int) -> Path:
        """The sound conformed to some rate."""
        return self.blob.prepared / f"sound-{sound_name(rate, self.stream)}.f32"

    @property
    def sound_ready(self) -> bool:
        """Whether its sound can be used, though the picture may still be in the making."""
        return self.state != self.FAILED and "sound" in self.info
