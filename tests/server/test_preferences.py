"""Keys that an account has changed, kept for it alone."""

import json

from django.contrib.auth.models import User
from django.test import Client

PLACE = "/api/account/preferences"


def put(client, keys):
    return client.put(PLACE, json.dumps({"keys": keys}), "application/json")


def test_keys_are_kept_for_their_account_alone(api, db):
    mine, other = Client(), Client()
    mine.force_login(api.user)
    other.force_login(User.objects.create_user("odell"))
    assert mine.get(PLACE).json() == {"keys": {}}
    assert put(mine, {"marker": ["N"], "split": []}).status_code == 200
    assert put(mine, {"marker": ["B"]}).json() == {"keys": {"marker": ["B"]}}
    assert mine.get(PLACE).json() == {"keys": {"marker": ["B"]}}
    assert other.get(PLACE).json() == {"keys": {}}
    assert Client().get(PLACE).status_code == 401


def test_what_is_no_map_of_keys_is_refused(api):
    client = Client()
    client.force_login(api.user)
    for keys in ({"marker": "N"}, {"": ["N"]}, {"marker": ["N" * 99]}, {"a": list("abcdef")}):
        assert put(client, keys).status_code == 422
    assert client.get(PLACE).json() == {"keys": {}}
