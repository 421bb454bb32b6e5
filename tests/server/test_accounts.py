"""Entering, passwords, and refusing unsafe settings."""

import json
from datetime import timedelta
from threading import Thread

import pytest
from axes.models import AccessAttempt
from django.contrib.auth.models import User
from django.core.cache import cache
from django.core.exceptions import ImproperlyConfigured
from django.db import connection
from django.test import Client
from django.utils import timezone

from bathyphon.server.accounts.models import SignInLink
from bathyphon.server.settings.safety import refuse_unsafe


def post(client, path, data):
    return client.post(path, json.dumps(data), "application/json")


def by_link(client, token):
    return post(client, "/api/session/link", {"token": token})


def test_a_link_signs_in_once(api):
    address = SignInLink.path(api.user, "/reels/x")
    before, _, token = address.partition("#link=")
    # Neither the page nor who only looks at it gets to see what signs in, or uses it up.
    assert before == "/sign-in?to=/reels/x"
    client = Client()
    assert client.get(before).status_code == 200
    assert by_link(client, token).json() == {"name": "mara"}
    assert client.get("/api/account").json() == {"name": "mara"}
    again = by_link(Client(), token)
    assert (again.status_code, again.json()["detail"]) == (
        403, "That link has been used or has expired."
    )  # fmt: skip


def test_a_link_that_has_expired_and_what_is_none(api):
    assert by_link(Client(), SignInLink.make(api.user, hours=-1)).status_code == 403
    assert by_link(Client(), "x" * 32).status_code == 403
    assert by_link(Client(), "").status_code == 403


def test_a_link_needs_a_page_of_ours(api):
    """A form on somebody else's page signs nobody in."""
    client = Client(enforce_csrf_checks=True)
    assert by_link(client, SignInLink.make(api.user)).status_code == 403
    assert client.get("/api/account").status_code == 401


def test_signing_in_and_out(api):
    client = Client()
    wrong = post(client, "/api/session", {"name": "mara", "password": "wrong"})
    assert wrong.status_code == 403
    good = post(client, "/api/session", {"name": "mara", "password": "a long pass phrase"})
    assert good.json() == {"name": "mara"}
    assert client.delete("/api/session").status_code == 204
    assert client.get("/api/account").status_code == 401


GUESS = {"name": "mara", "password": "guess"}
RIGHT = {"name": "mara", "password": "a long pass phrase"}


def test_guessing_is_slowed_down(api):
    for _ in range(10):
        post(Client(), "/api/session", GUESS)
    answer = post(Client(), "/api/session", RIGHT)
    assert answer.status_code == 403
    assert "Too many" in answer.json()["detail"]
    # Neither a header that anybody can send nor what a process remembers lifts it.
    cache.clear()
    for header in ("X-Forwarded-For", "X-Real-IP", "Forwarded"):
        client = Client(headers={header: "192.0.2.7"})
        assert "Too many" in post(client, "/api/session", RIGHT).json()["detail"]
    # Somebody at another address is not locked out by it.
    elsewhere = Client(REMOTE_ADDR="192.0.2.8")
    assert post(elsewhere, "/api/session", RIGHT).status_code == 200
    later = timezone.now() - timedelta(minutes=6)
    AccessAttempt.objects.update(attempt_time=later)
    assert post(Client(), "/api/session", RIGHT).status_code == 200


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("guesses", [24])
def test_guesses_at_the_same_moment_are_counted(guesses):
    User.objects.create_user("mara", password="a long pass phrase")
    answers = []

    def guess():
        try:
            answers.append(post(Client(), "/api/session", GUESS))
        finally:
            connection.close()

    for _ in range(3):
        threads = [Thread(target=guess) for _ in range(guesses)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    said = [(a.status_code, a.json()["detail"]) for a in answers]
    assert len(said) == 3 * guesses
    looked_at = [s for s in said if "do not belong together" in s[1]]
    assert 1 <= len(looked_at) <= 10
    assert {s[0] for s in said} <= {403, 429}


def test_changing_the_password(api):
    bad = api.post("/api/password", {"old": "wrong", "new": "quite another phrase"})
    assert (bad.status_code, bad.json()["where"]) == (422, "old")
    short = api.post("/api/password", {"old": "a long pass phrase", "new": "short"})
    assert short.json()["where"] == "new"
    good = api.post("/api/password", {"old": "a long pass phrase", "new": "quite another phrase"})
    assert good.status_code == 204
    assert api.get("/api/account").status_code == 200
    assert User.objects.get(username="mara").check_password("quite another phrase")


def test_requests_that_change_something_need_a_token(api):
    client = Client(enforce_csrf_checks=True)
    client.force_login(api.user)
    assert post(client, "/api/reels", {"name": "x"}).status_code == 403


GOOD = "kJ8s-2mQp0vXz71bTtYeRw93LhNcA5dG"


@pytest.mark.parametrize(
    ("secret", "debug", "hosts", "message"),
    [
        ("", False, ["127.0.0.1"], "at least 32"),
        ("short", False, ["sound.example"], "at least 32"),
        (GOOD, True, ["sound.example"], "BATHYPHON_DEBUG"),
        ("a" * 40, False, ["sound.example"], "random"),
    ],
)
def test_an_unsafe_configuration_is_refused(secret, debug, hosts, message):
    with pytest.raises(ImproperlyConfigured, match=message):
        refuse_unsafe(secret, debug, hosts)


def test_a_safe_configuration_is_accepted():
    refuse_unsafe(GOOD, False, ["sound.example"])
    refuse_unsafe(GOOD, True, ["127.0.0.1", "localhost"])
