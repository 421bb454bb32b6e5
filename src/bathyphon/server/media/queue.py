"""The order in which what waits is worked on: accounts take turns."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.contrib.auth.models import User
from django.db import connection

from bathyphon.server.media.models import Media

LONGEST_TURN = 10_000
ORDER = """
UPDATE procrastinate_jobs
SET priority = turn.priority
FROM unnest(%s::text[], %s::int[]) AS turn (media, priority)
WHERE task_name = 'prepare_media' AND status = 'todo' AND args->>'media' = turn.media
"""


def turn(waiting: int) -> int:
    """The priority of a job of somebody who has so many waiting before it.

    Everybody's first comes before anybody's second: who brings in a hundred files does not keep
    the others from bringing in one.

    Examples
    --------
    >>> turn(0) > turn(1)
    True
    """
    return -min(waiting, LONGEST_TURN)


def media_turn(account: User) -> int:
    """The priority of the account's next medium."""
    return turn(Media.objects.filter(account=account, state__in=Media.OPEN).count())


def put_first(account: User, wanted: Iterable[UUID]) -> None:
    """Have some of an account's waiting media prepared before its others; others keep theirs."""
    # The queue's own models cannot be written to; its table is part of its documented schema.
    rows = Media.visible_to(account).filter(state=Media.WAITING).order_by("created")
    waiting = list(rows.values_list("pk", flat=True))
    before = [id for id in wanted if id in waiting]
    order = [*before, *(id for id in waiting if id not in before)]
    with connection.cursor() as cursor:
        turns = [turn(place) for place in range(len(order))]
        cursor.execute(ORDER, [[str(id) for id in order], turns])
