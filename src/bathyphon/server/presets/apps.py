"""The presets application."""

from django.apps import AppConfig


class Config(AppConfig):
    """Names the application."""

    name = "bathyphon.server.presets"
    label = "presets"
