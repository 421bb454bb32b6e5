"""The whole API, asked with what its own description allows and with what it does not."""

import json
import traceback
from contextlib import suppress
from http import HTTPStatus
from urllib.parse import urlencode

import pytest
import schemathesis
from asgiref.sync import async_to_sync
from django.db import transaction
from django.test import AsyncClient
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from paths import API, EDGE, FORM, kind_of
from schemathesis.core import NotSet
from test_every_path import lay_files, of_each_kind, things  # noqa: F401

from bathyphon.server.reels.models import Reel

schema = schemathesis.openapi.from_dict(API)
WAYS = {
    "as described": schemathesis.GenerationMode.POSITIVE,
    "otherwise": schemathesis.GenerationMode.NEGATIVE,
}
OPERATIONS = [found.ok() for found in schema.get_all_operations()]
FEW, MANY = 3, 100


def send(client, case):
    """Send what has been drawn."""
    kind = case.media_type or "application/json"
    if isinstance(case.body, NotSet):
        body = b""
    elif kind.startswith("multipart"):
        body, kind = FORM, f"{kind}; boundary={EDGE}"
    else:
        body = json.dumps(case.body, default=str).encode("utf-8", "surrogatepass")
    query = urlencode(case.query or {}, doseq=True, errors="surrogatepass")
    address = case.formatted_path + (f"?{query}" if query else "")

    async def sent():
        return await client.generic(case.method, address, body, kind)

    return async_to_sync(sent)()


@of_each_kind
@pytest.mark.django_db
@pytest.mark.parametrize("examples", [FEW, pytest.param(MANY, marks=pytest.mark.long)])
def test_nothing_that_is_sent_is_a_fault_of_ours(things, api, kind, examples):  # noqa: F811
    client = AsyncClient()
    async_to_sync(client.aforce_login)(api.user)
    for number, operation in enumerate(OPERATIONS):
        if kind_of(operation.path) == kind:
            lay_files()
            # Few are asked one way or the other, in turn; what is described is also asked of each
            # address in test_every_path.
            ways = list(WAYS) if examples == MANY else [list(WAYS)[number % len(WAYS)]]
            # What is done is taken back before the next address.
            with transaction.atomic():
                fuzz(operation, ways, examples, client, things.get(kind))
                assert Reel.objects.filter(pk=things["reels"]).exists(), operation.label
                transaction.set_rollback(True)


def fuzz(operation, ways, examples, client, id):
    """Ask one address with whatever is drawn, and fail where that is a fault of ours."""
    found = []

    def ask(case, as_described):
        if id is not None and as_described:
            case.path_parameters["id"] = str(id)
        try:
            answer = send(client, case)
        except Exception:
            found.append((case.body, case.query, traceback.format_exc()[-1500:]))
        else:
            assert answer.status_code < HTTPStatus.INTERNAL_SERVER_ERROR, operation.label

    drawn = settings(
        max_examples=examples, derandomize=examples == FEW, database=None, deadline=None,
        suppress_health_check=list(HealthCheck), phases=[Phase.generate],
    )  # fmt: skip
    for way in ways:
        cases = operation.as_strategy(generation_mode=WAYS[way])
        with suppress(Unsatisfiable):
            # What takes nothing cannot be asked otherwise than as described.
            drawn(given(case=cases, as_described=st.just(way == "as described"))(ask))()
    assert not found, (operation.label, found[0])
