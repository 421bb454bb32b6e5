"""The newest document of each reel, kept in memory and checked against the row's revision."""

from __future__ import annotations

from dataclasses import dataclass
from threading import Lock
from uuid import UUID

from cachetools import LRUCache
from django.contrib.auth.models import User
from django.shortcuts import get_object_or_404

from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.reel.model import Document, Reel
from bathyphon.core.reel.parse import read_reel
from bathyphon.server.reels.models import JournalEntry, Snapshot
from bathyphon.server.reels.models import Reel as ReelRow

MOST = 128


@dataclass(frozen=True)
class Head:
    """A reel's document at a revision."""

    revision: int
    document: Document
    reel: Reel


_heads: LRUCache[UUID, Head] = LRUCache(MOST)
_lock = Lock()


def head_of(reel: UUID, revision: int) -> Head:
    """The document of a reel at its newest revision."""
    with _lock:
        known = _heads.get(reel)
    if known is not None and known.revision == revision:
        return known
    document = load(reel, revision)
    return remember(reel, Head(revision, document, read_reel(document)))


def head_since(reel: UUID, revision: int) -> Head:
    """The document at a revision, or at a newer one that has overtaken it and is at hand."""
    with _lock:
        known = _heads.get(reel)
    return known if known and known.revision > revision else head_of(reel, revision)


def seen_by(account: User, reel: UUID) -> Head:
    """The newest document of a reel that an account may see.

    Raises
    ------
    Http404
        For strangers, too.
    """
    row = get_object_or_404(ReelRow.visible_to(account), pk=reel)
    return head_of(row.pk, row.revision)


def remember(reel: UUID, head: Head) -> Head:
    """Keep a head; the least recently used one goes when there are too many."""
    with _lock:
        _heads[reel] = head
    return head


def load(reel: UUID, revision: int) -> Document:
    """The document at any revision, from the snapshot before it and the patches since."""
    snapshot = (
        Snapshot.objects.filter(reel_id=reel, revision__lte=revision)
        .order_by("-revision")[:1]
        .get()
    )
    document = snapshot.document()
    entries = JournalEntry.objects.filter(
        reel_id=reel, revision__gt=snapshot.revision, revision__lte=revision
    )
    for forward in entries.order_by("revision").values_list("forward", flat=True):
        document, _ = apply_patch(document, forward)
    return document
