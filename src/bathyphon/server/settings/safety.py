"""Refusing to run in a way that would be dangerous."""

from __future__ import annotations

from collections.abc import Sequence

from django.core.exceptions import ImproperlyConfigured

LOOPBACK = {"127.0.0.1", "localhost", "[::1]", "::1"}
SHORTEST_SECRET = 32


def refuse_unsafe(secret: str, debug: bool, hosts: Sequence[str]) -> None:
    """Refuse debug mode, or a missing or short secret, wherever others can reach the server.

    Raises
    ------
    ImproperlyConfigured
        With one sentence that says what would be right.
    """
    if len(secret) < SHORTEST_SECRET:
        raise ImproperlyConfigured(
            f"BATHYPHON_SECRET_KEY must hold at least {SHORTEST_SECRET} random characters"
        )
    public = [host for host in hosts if host not in LOOPBACK]
    if public and debug:
        raise ImproperlyConfigured(
            f"BATHYPHON_DEBUG must be off when the server answers to {', '.join(public)}"
        )
    if public and ("demo" in secret or len(set(secret)) < 10):
        raise ImproperlyConfigured(
            f"BATHYPHON_SECRET_KEY must be a random one when the server answers to "
            f"{', '.join(public)}"
        )
