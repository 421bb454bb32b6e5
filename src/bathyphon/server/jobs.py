"""What all jobs share: what brings its worker down again and again is set aside."""

from __future__ import annotations

from procrastinate import JobContext

MOST_ATTEMPTS = 3
"""So often a job may be begun whose worker is killed or crashes on the way."""


def set_aside(context: JobContext) -> bool:
    """Whether a job has been begun too often: who has begun it never came back."""
    return context.job.attempts >= MOST_ATTEMPTS
