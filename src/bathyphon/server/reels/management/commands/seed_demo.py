"""Bring in the demo reel, once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection

from bathyphon.formats.prepare import prepare
from bathyphon.formats.reel_file import load_document
from bathyphon.server.accounts.models import SignInLink
from bathyphon.server.media.models import Media
from bathyphon.server.media.storage import local_file
from bathyphon.server.reels.importing import import_reel, with_media
from bathyphon.server.reels.journal import create_reel
from bathyphon.server.reels.models import Reel

DEMO_ACCOUNT = "editor"
TWIN = "untreated.json"


class Command(BaseCommand):
    """``seed_demo REEL.json``: an account with the demo reel, its media ready to play, and its twin
    beside it, to which nothing has been done."""

    help = "Bring in the demo reel unless it is there already; prints a sign-in path to it."
    # Checks of the whole project would import all that it serves.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """The reel file."""
        parser.add_argument("reel", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Import, and prepare all media at once."""
        account, made = User.objects.get_or_create(username=DEMO_ACCOUNT)
        if made:
            account.set_unusable_password()
            account.save()
        found = Reel.visible_to(account).order_by("created").first()
        if found is None:
            path: Path = options["reel"]
            found, media = import_reel(account, path)
            rows = {
                m["id"]: row for m, row in zip(load_document(path)["media"], media, strict=True)
            }
            create_reel(account, with_media(load_document(path.with_name(TWIN)), rows))
            with ThreadPoolExecutor(2) as pool:
                list(pool.map(self._prepare, media))
        self.stdout.write(SignInLink.path(account, f"/reels/{found.pk}"))

    def _prepare(self, row: Media) -> None:
        # The project's own files need no process with limits, whose start would take long.
        source, folder = local_file(row.blob), row.blob.prepared
        row.info = prepare(source, folder, row.rate, lambda told: None, row.stream)
        row.state, row.progress = Media.READY, 1.0
        row.save()
        connection.close()
