"""The reels application."""

from django.apps import AppConfig


class Config(AppConfig):
    """Names the application."""

    name = "bathyphon.server.reels"
    label = "reels"
