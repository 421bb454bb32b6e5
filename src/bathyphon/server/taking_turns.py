"""What only one at a time may do, over all processes, as PostgreSQL sees to it."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection, transaction


@contextmanager
def one_at_a_time(*what: str) -> Iterator[bool]:
    """Within it nobody else does the same; yields whether it is one's turn, without waiting.

    Parameters
    ----------
    *what : str
        What is done, and to whom.
    """
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("select pg_try_advisory_xact_lock(%s)", [_key(what)])
        (mine,) = cursor.fetchone()
        yield bool(mine)


def wait_for_turn(*what: str) -> None:
    """Wait until nobody else does the same, and keep others waiting until the transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_advisory_xact_lock(%s)", [_key(what)])


def _key(what: tuple[str, ...]) -> int:
    digest = hashlib.blake2b("\0".join(what).encode(), digest_size=8).digest()
    return int.from_bytes(digest, "big", signed=True)
