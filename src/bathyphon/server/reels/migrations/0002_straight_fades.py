"""Levels that fade to silence keep their sound in the reels that are there."""

import json
import uuid
import zlib
from typing import Any

from django.db import migrations

from bathyphon.core.edits.patch import apply_patch
from bathyphon.core.edits.upgrade import keep_straight_fades


def mark(apps: Any, schema_editor: Any) -> None:
    """Append the marks to each reel's journal, as an entry that undo passes by."""
    reels, journal = apps.get_model("reels", "Reel"), apps.get_model("reels", "JournalEntry")
    for reel in reels.objects.all():
        owner = reel.memberships.order_by("pk").first()
        snapshot = reel.snapshots.order_by("-revision").first()
        if owner is None or snapshot is None:
            continue
        document = json.loads(zlib.decompress(bytes(snapshot.packed)))
        since = reel.journal.filter(revision__gt=snapshot.revision).order_by("revision")
        for forward in since.values_list("forward", flat=True):
            document, _ = apply_patch(document, forward)
        forward = keep_straight_fades(document)
        if not forward:
            continue
        _, inverse = apply_patch(document, forward)
        newest = reel.journal.order_by("-revision").first()
        journal.objects.create(
            reel=reel,
            revision=reel.revision + 1,
            edit_id=uuid.uuid4(),
            account_id=owner.account_id,
            kind="upgrade",
            title="keep the sound of older fades to silence",
            command={"kind": "upgrade"},
            forward=forward,
            inverse=inverse,
            touches=[],
            undo_next=newest.undo_next if newest else None,
            redo_next=newest.redo_next if newest else None,
        )
        reel.revision += 1
        reel.save(update_fields=["revision"])


class Migration(migrations.Migration):
    dependencies = [("reels", "0001_initial")]

    operations = [migrations.RunPython(mark, migrations.RunPython.noop)]
