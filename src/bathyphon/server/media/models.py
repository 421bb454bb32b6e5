"""Media of accounts, and the blobs that hold their bytes."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models


class Blob(models.Model):
    """A file's content, stored once under its hash."""

    digest = models.CharField(max_length=64, primary_key=True)
    size = models.BigIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    @property
    def path(self) -> Path:
        """Where the bytes are."""
        return Path(settings.DATA) / "blobs" / self.digest[:2] / self.digest

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


class Media(models.Model):
    """A file that an account has brought in."""

    WAITING, PREPARING, READY, FAILED = "waiting", "preparing", "ready", "failed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT)
    name = models.CharField(max_length=400)
    rate = models.PositiveIntegerField(default=48000)
    state = models.CharField(max_length=20, default=WAITING)
    progress = models.FloatField(default=0.0)
    error = models.CharField(max_length=500, blank=True)
    info = models.JSONField(default=dict)
    created = models.DateTimeField(auto_now_add=True)
    trashed = models.DateTimeField(null=True, blank=True)

    class Meta:
        verbose_name_plural = "media"

    @staticmethod
    def visible_to(account: User) -> models.QuerySet[Media]:
        """The one query through which all access passes."""
        return Media.objects.filter(account=account, trashed__isnull=True).select_related("blob")

    @property
    def sound_path(self) -> Path:
        """The conformed sound."""
        return self.blob.prepared / f"sound-{self.rate}.f32"
