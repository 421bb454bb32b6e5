"""The accounts application."""

from django.apps import AppConfig


class Config(AppConfig):
    """Names the application."""

    name = "bathyphon.server.accounts"
    label = "accounts"
