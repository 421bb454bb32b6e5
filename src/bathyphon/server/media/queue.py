"""The order in which waiting media are prepared."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.contrib.auth.models import User
from django.db import connection

from bathyphon.server.media.models import Media

FIRST = 10
ORDER = """
UPDATE procrastinate_jobs
SET priority = CASE WHEN args->>'media' = ANY(%s) THEN %s ELSE 0 END
WHERE task_name = 'prepare_media' AND status = 'todo' AND args->>'media' = ANY(%s)
"""


def put_first(account: User, wanted: Iterable[UUID]) -> None:
    """Have some of an account's waiting media prepared before its others."""
    # The queue's own models cannot be written to; its table is part of its documented schema.
    waiting = Media.visible_to(account).filter(state=Media.WAITING)
    ids = [str(id) for id in waiting.values_list("pk", flat=True)]
    with connection.cursor() as cursor:
        cursor.execute(ORDER, [[str(id) for id in wanted], FIRST, ids])
