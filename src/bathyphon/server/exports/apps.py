"""The exports application."""

from django.apps import AppConfig


class Config(AppConfig):
    """Names the application."""

    name = "bathyphon.server.exports"
    label = "exports"
