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
    digest = hashlib.blake2b("\0".join(what).encode(), digest_size=8).digest()
    key = int.from_bytes(digest, "big", signed=True)
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("select pg_try_advisory_xact_lock(%s)", [key])
        (mine,) = cursor.fetchone()
        yield bool(mine)
