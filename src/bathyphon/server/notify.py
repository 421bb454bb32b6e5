"""Telling open windows that something has changed, through PostgreSQL's NOTIFY."""

from __future__ import annotations

import json
from typing import Any

from django.db import connection

CHANNEL = "bathyphon"


def tell(account: int, kind: str, **what: Any) -> None:
    """Send an event to every window of an account, once the transaction is committed."""
    payload = json.dumps({"account": account, "kind": kind, **what})
    with connection.cursor() as cursor:
        cursor.execute("select pg_notify(%s, %s)", [CHANNEL, payload])
