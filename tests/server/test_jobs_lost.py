"""Jobs that lose the database on their way are begun anew, and what no job is left for as well."""

from datetime import timedelta

import pytest
from django.db import InterfaceError, OperationalError
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from bathyphon.server.exports import tasks as exporting
from bathyphon.server.exports.models import Export
from bathyphon.server.jobs import LATER, MOST_ATTEMPTS
from bathyphon.server.media import tasks as preparing
from bathyphon.server.media.models import Media

LONG_AGO = timezone.now() - timedelta(minutes=5)


class Context:
    """What a job knows of itself."""

    def __init__(self, attempts=0):
        self.job = type("Job", (), {"attempts": attempts})

    def should_abort(self):
        return False


def waiting(task):
    return ProcrastinateJob.objects.filter(task_name=task, status="todo")


@pytest.fixture
def export(api, reel):
    return Export.objects.create(reel=reel, account=api.user, revision=0, name="x")


@pytest.mark.parametrize("fault", [OperationalError("gone"), InterfaceError("closed")])
def test_who_loses_the_database_is_asked_again_and_fails_nothing(monkeypatch, media, export, fault):
    def lose(*arguments):
        raise fault

    Media.objects.filter(pk=media.pk).update(state=Media.WAITING)
    monkeypatch.setattr(preparing, "prepare", lose)
    monkeypatch.setattr(exporting, "_render", lose)
    with pytest.raises(type(fault)):
        preparing.prepare_media.func(Context(), str(media.pk))
    with pytest.raises(type(fault)):
        exporting.run_export.func(Context(), str(export.pk))
    media.refresh_from_db()
    export.refresh_from_db()
    assert (media.state, export.state) == (Media.PREPARING, Export.RUNNING)
    job = type("Job", (), {"attempts": 0})
    assert LATER.get_retry_decision(exception=fault, job=job) is not None
    job.attempts = MOST_ATTEMPTS
    assert LATER.get_retry_decision(exception=fault, job=job) is None
    assert LATER.get_retry_decision(exception=ValueError(), job=job) is None


@pytest.mark.parametrize("state", [Media.WAITING, Media.PREPARING])
def test_a_medium_that_no_job_is_left_for(media, state):
    Media.objects.filter(pk=media.pk).update(state=state, created=LONG_AGO)
    preparing.take_up_lost.func(0)
    after = waiting("prepare_media").filter(args__media=str(media.pk)).count()
    # Where one is left, none is added; and never more than one.
    assert after == 1
    preparing.take_up_lost.func(0)
    assert waiting("prepare_media").filter(args__media=str(media.pk)).count() == 1


def test_what_is_ready_or_new_is_left_alone(media):
    Media.objects.filter(pk=media.pk).update(created=LONG_AGO)
    before = waiting("prepare_media").count()
    preparing.take_up_lost.func(0)
    fresh = Media.objects.create(account=media.account, blob=media.blob, name="new")
    preparing.take_up_lost.func(0)
    assert waiting("prepare_media").count() == before
    assert fresh.state == Media.WAITING


@pytest.mark.parametrize("state", [Export.QUEUED, Export.RUNNING])
def test_an_export_that_no_job_is_left_for(export, state):
    Export.objects.filter(pk=export.pk).update(state=state, asked=LONG_AGO)
    for _ in range(2):
        exporting.take_up_lost_exports.func(0)
        assert waiting("run_export").filter(args__export=str(export.pk)).count() == 1
