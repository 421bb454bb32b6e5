"""Bring in the demo reel, once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection

from bathyphon.formats.prepare import prepare
from bathyphon.server.accounts.models import SignInLink
from bathyphon.server.media.models import Media
from bathyphon.server.media.storage import local_file
from bathyphon.server.reels.importing import import_reel
from bathyphon.server.reels.models import Reel

DEMO_ACCOUNT = "editor"


class Command(BaseCommand):
    """``seed_demo REEL.json``: an account with the demo reel, its media ready to play."""

    help = "Bring in the demo reel unless it is there already; prints a sign-in path to it."

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
            found, media = import_reel(account, options["reel"])
            with ThreadPoolExecutor(2) as pool:
                list(pool.map(self._prepare, media))
        self.stdout.write(f"/enter/{SignInLink.make(account)}?to=/reels/{found.pk}")

    def _prepare(self, row: Media) -> None:
        # The project's own files need no process with limits, whose start would take long.
        source, folder = local_file(row.blob), row.blob.prepared
        row.info = prepare(source, folder, row.rate, lambda told: None, row.stream)
        row.state, row.progress = Media.READY, 1.0
        row.save()
        connection.close()
