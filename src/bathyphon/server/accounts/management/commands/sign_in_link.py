"""A one-time sign-in link for an account."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from bathyphon.server.accounts.models import SignInLink


class Command(BaseCommand):
    """``sign_in_link NAME [--make] [--to PATH]``: prints the link's path."""

    help = "Print the path of a link that signs an account in, once."
    # Checks of the whole project would import all that it serves.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """Whose link, and where it leads."""
        parser.add_argument("name")
        parser.add_argument("--make", action="store_true", help="make the account if needed")
        parser.add_argument("--to", default="/")

    def handle(self, *args: Any, **options: Any) -> None:
        """Make the link."""
        account = User.objects.filter(username=options["name"]).first()
        if account is None:
            if not options["make"]:
                raise CommandError(f"there is no account “{options['name']}”; add --make")
            account = User.objects.create_user(options["name"])
        self.stdout.write(SignInLink.path(account, options["to"]))
