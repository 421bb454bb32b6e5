"""What all jobs share: they end, or are taken up again, whatever happens to who works on them."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django.models import ProcrastinateJob

from bathyphon.server.away import DATABASE_AWAY

MOST_ATTEMPTS = 3
"""So often a job may be begun whose worker is killed or crashes on the way."""
LOST_SECONDS = 60
"""What is waited for is given its job right away: after so long it has none."""
# No fault of the job: it is begun anew when the database is there again.
LATER = RetryStrategy(max_attempts=MOST_ATTEMPTS, wait=5, retry_exceptions=set(DATABASE_AWAY))


def set_aside(context: JobContext) -> bool:
    """Whether a job has been begun too often: who has begun it never came back."""
    return context.job.attempts >= MOST_ATTEMPTS


def lost(task: str, key: str, waited_for: QuerySet[Any], since: str) -> list[str]:
    """Of what is waited for, what no job is left for.

    A worker that loses the database between two steps may have left it so.

    Parameters
    ----------
    task : str
        The name of the jobs.
    key : str
        Their argument that says what they work on.
    waited_for : QuerySet
        Rows that are waited for.
    since : str
        Their field that says since when.

    Returns
    -------
    list of str
        Their ids.
    """
    before = timezone.now() - timedelta(seconds=LOST_SECONDS)
    ids = map(str, waited_for.filter(**{f"{since}__lt": before}).values_list("pk", flat=True))
    jobs = ProcrastinateJob.objects.filter(task_name=task, status__in=("todo", "doing"))
    worked_on = set(jobs.values_list(f"args__{key}", flat=True))
    return [id for id in ids if id not in worked_on]
