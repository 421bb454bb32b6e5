"""Accounts, media and reels for the server's tests."""

from __future__ import annotations

import copy
import json
import sys
import uuid
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import soundfile
from asgiref.sync import async_to_sync
from django.contrib.auth.models import User
from django.test import AsyncClient, Client

from bathyphon.formats.prepare import prepare as prepare_parts
from bathyphon.server.media.intake import take
from bathyphon.server.media.models import Media
from bathyphon.server.media.storage import local_file
from bathyphon.server.media.tasks import prepare
from bathyphon.server.reels.journal import create_reel
from reels import document, effect, noise, treatment

RATE = 48000
SECONDS = 4


class Api:
    """A signed-in client that speaks JSON."""

    def __init__(self, user: User) -> None:
        self.user = user
        self._client = Client()
        self._client.force_login(user)
        self.cookie = self._client.cookies["sessionid"].value

    def get(self, path: str, **headers: str) -> Any:
        return self._client.get(path, headers=headers)

    def post(self, path: str, data: Any = None, **headers: str) -> Any:
        return self._client.post(path, json.dumps(data), "application/json", headers=headers)

    def patch(self, path: str, data: Any = None) -> Any:
        return self._client.patch(path, json.dumps(data), "application/json")

    def put(self, path: str, data: Any = None) -> Any:
        return self._client.put(path, json.dumps(data), "application/json")

    def delete(self, path: str) -> Any:
        return self._client.delete(path)

    def upload(self, path: str, file: Any) -> Any:
        return self._client.post(path, {"file": file})

    def fetch(self, path: str, **headers: str) -> tuple[Any, bytes]:
        """A streamed answer and its bytes."""

        async def run() -> tuple[Any, bytes]:
            client = AsyncClient()
            await client.aforce_login(self.user)
            response = await client.get(path, headers=headers)
            if not response.streaming:
                return response, response.content
            return response, b"".join([part async for part in response.streaming_content])

        return async_to_sync(run)()

    def edit(self, reel: Any, base: int, **command: Any) -> Any:
        return self.edits(reel, base, [command])

    def edits(self, reel: Any, base: int, commands: list[Any]) -> Any:
        """Several commands that are one edit."""
        data = {"edit_id": str(uuid.uuid4()), "base": base, "commands": commands}
        return self.post(f"/api/reels/{reel.pk}/edits", data)

    def turn(self, reel: Any, what: str, expect: int) -> Any:
        data = {"edit_id": str(uuid.uuid4()), "expect": expect}
        return self.post(f"/api/reels/{reel.pk}/{what}", data)


@pytest.fixture(autouse=True)
def nothing_remembered() -> None:
    """What another test has had worked out would be there at once."""
    engine = sys.modules.get("bathyphon.server.sound.engine")
    if engine is not None:
        engine.forget_sound()


@pytest.fixture
def api(db: None) -> Api:
    return Api(User.objects.create_user("mara", password="a long pass phrase"))


@pytest.fixture
def stranger(db: None) -> Api:
    return Api(User.objects.create_user("odell", password="another pass phrase"))


_prepared: dict[tuple[str, int, int], dict[str, Any]] = {}
"""What has been found in files that lie prepared: most tests bring in the same one."""


def prepare_here(media: Media) -> dict[str, Any]:
    """What the limited process does, without its limits, which saves its start."""
    source, folder = local_file(media.blob), media.blob.prepared
    name = (media.blob.digest, media.rate, media.stream)
    if name not in _prepared or not media.sound_path.exists():
        _prepared[name] = prepare_parts(source, folder, media.rate, lambda told: None, media.stream)
    return copy.deepcopy(_prepared[name])


def bring_in(user: User, name: str, content: bytes, rate: int = RATE, apart: bool = False) -> Media:
    """A medium as the worker leaves it; ``apart`` in a process of its own, as it does."""
    media = take(user, name, [content], rate)
    info = prepare(media) if apart else prepare_here(media)
    if "error" in info:
        media.state, media.error = Media.FAILED, str(info["error"])
    else:
        media.state, media.info = Media.READY, info
    media.save()
    return media


def wav(sound: np.ndarray, folder: Path, rate: int = RATE, name: str = "x.wav") -> bytes:
    """A float WAV of sound of shape (channels, n)."""
    path = folder / name
    soundfile.write(path, sound.T, rate, subtype="FLOAT")
    return path.read_bytes()


@pytest.fixture
def sound() -> np.ndarray:
    return noise(SECONDS * RATE, 4)


@pytest.fixture
def media(api: Api, sound: np.ndarray, tmp_path: Path) -> Media:
    return bring_in(api.user, "noise.wav", wav(sound, tmp_path))


@pytest.fixture
def reel(api: Api, media: Media) -> Any:
    doc = document(
        SECONDS * RATE,
        treatments=[treatment(RATE, RATE, effect("muffle"), ramp_in={"length": 5760})],
    )
    doc["media"] = [{"id": str(media.pk), "path": "noise.wav"}]
    doc["tracks"][0]["clips"][0]["media"] = str(media.pk)
    return create_reel(api.user, doc)
