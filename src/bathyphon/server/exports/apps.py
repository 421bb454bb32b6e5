"""The exports application."""

from django.apps import AppConfig


class Config(AppConfig):
    """Names the application."""

    name = "bathyphon.server.exports"
    label = "exports"

    def ready(self) -> None:
        """Say how much of the disk is an account's."""
        from bathyphon.server.exports import counting  # noqa: F401
