"""What an account has set for itself, wherever it signs in."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from bathyphon.server.accounts.models import Preferences
from bathyphon.server.current import account_of

router = Router(tags=["accounts"])
Word = Annotated[str, Field(min_length=1, max_length=60)]
MOST_KEYS = 300


class PreferencesData(Schema):
    """Keys of commands that differ from the usual ones; none at all for an empty list."""

    keys: Annotated[
        dict[Word, Annotated[list[Word], Field(max_length=5)]], Field(max_length=MOST_KEYS)
    ] = Field(default_factory=dict)


@router.get("account/preferences", response=PreferencesData)
def get_preferences(request: HttpRequest) -> PreferencesData:
    """The signed-in account's preferences."""
    found = Preferences.objects.filter(account=account_of(request)).first()
    return PreferencesData(keys=found.keys if found else {})


@router.put("account/preferences", response=PreferencesData)
def set_preferences(request: HttpRequest, data: PreferencesData) -> PreferencesData:
    """Keep the signed-in account's preferences."""
    Preferences.objects.update_or_create(account=account_of(request), defaults={"keys": data.keys})
    return data
