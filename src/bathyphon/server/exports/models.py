"""Renders of reels to files."""

from __future__ import annotations

import uuid
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models

from bathyphon.server.reels.models import Reel


class Export(models.Model):
    """One render: of which revision, how, and how far it has come."""

    QUEUED, RUNNING, DONE, FAILED, CANCELLED = "queued", "running", "done", "failed", "cancelled"
    OPEN = (QUEUED, RUNNING)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    reel = models.ForeignKey(Reel, on_delete=models.CASCADE, related_name="exports")
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    revision = models.PositiveIntegerField()
    treated = models.BooleanField(default=True)
    bits = models.CharField(max_length=4, default="24")
    start = models.BigIntegerField(default=0)
    stop = models.BigIntegerField(null=True)
    state = models.CharField(max_length=20, default=QUEUED)
    # What its file takes, or will take.
    size = models.BigIntegerField(default=0)
    progress = models.FloatField(default=0.0)
    error = models.CharField(max_length=500, blank=True)
    name = models.CharField(max_length=400)
    asked = models.DateTimeField(auto_now_add=True)

    @staticmethod
    def visible_to(account: User) -> models.QuerySet[Export]:
        """The one query through which all access passes."""
        return Export.objects.filter(account=account, reel__in=Reel.visible_to(account))

    @property
    def path(self) -> Path:
        """Where the file is, once done."""
        return Path(settings.DATA) / "exports" / f"{self.pk}.wav"
