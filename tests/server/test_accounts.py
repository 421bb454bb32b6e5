"""Entering, passwords, and refusing unsafe settings."""

import json

import pytest
from django.contrib.auth.models import User
from django.core.cache import cache
from django.core.exceptions import ImproperlyConfigured
from django.test import Client

from bathyphon.server.accounts.models import SignInLink
from bathyphon.server.settings.safety import refuse_unsafe


def post(client, path, data):
    return client.post(path, json.dumps(data), "application/json")


def test_a_link_signs_in_once(api):
    token = SignInLink.make(api.user)
    client = Client()
    answer = client.get(f"/enter/{token}?to=/reels/x")
    assert (answer.status_code, answer.url) == (302, "/reels/x")
    assert client.get("/api/account").json() == {"name": "mara"}
    assert Client().get(f"/enter/{token}").url == "/sign-in?link=used"


def test_an_old_link_and_a_link_to_elsewhere(api):
    assert Client().get(f"/enter/{SignInLink.make(api.user, hours=-1)}").url.startswith("/sign-in")
    token = SignInLink.make(api.user)
    assert Client().get(f"/enter/{token}?to=//elsewhere.example/x").url == "/"


def test_signing_in_and_out(api):
    client = Client()
    cache.clear()
    wrong = post(client, "/api/session", {"name": "mara", "password": "wrong"})
    assert wrong.status_code == 403
    good = post(client, "/api/session", {"name": "mara", "password": "a long pass phrase"})
    assert good.json() == {"name": "mara"}
    assert client.delete("/api/session").status_code == 204
    assert client.get("/api/account").status_code == 401


def test_guessing_is_slowed_down(api):
    cache.clear()
    for _ in range(10):
        post(Client(), "/api/session", {"name": "mara", "password": "guess"})
    answer = post(Client(), "/api/session", {"name": "mara", "password": "a long pass phrase"})
    assert answer.status_code == 403
    assert "Too many" in answer.json()["detail"]
    cache.clear()


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
