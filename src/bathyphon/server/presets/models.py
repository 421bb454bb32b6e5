"""Presets that accounts have kept, and with whom they share them."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models
from django.db.models import Q

from bathyphon.server.reels.models import Reel


class KeptPreset(models.Model):
    """A preset of an account; ``document`` is its whole file, with keys of other versions.

    Whoever may see one of the reels that it is ``shared`` with may use it.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    kind = models.CharField(max_length=20)
    name = models.CharField(max_length=400)
    document = models.JSONField()
    favourite = models.BooleanField(default=False)
    used = models.DateTimeField(null=True, blank=True)
    created = models.DateTimeField(auto_now_add=True)
    shared = models.ManyToManyField(Reel, blank=True, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["account", "kind"], name="presets_of_account")]

    @staticmethod
    def visible_to(account: User) -> models.QuerySet[KeptPreset]:
        """The one query through which all access passes: one's own, and what others share."""
        reels = Reel.visible_to(account).values("pk")
        shared = KeptPreset.shared.through.objects.filter(reel__in=reels).values("keptpreset")
        return KeptPreset.objects.filter(Q(account=account) | Q(pk__in=shared))

    @staticmethod
    def owned_by(account: User) -> models.QuerySet[KeptPreset]:
        """Those that an account may change."""
        return KeptPreset.objects.filter(account=account)
