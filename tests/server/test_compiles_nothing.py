"""A server that answers edits, tables and the schema never imports the compiler."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from django.db import connection

ROOT = Path(__file__).parents[2]
ASKED = """
import sys, uuid, django
django.setup()
from django.contrib.auth.models import User
from django.test import Client

client = Client()
client.force_login(User.objects.get(username=sys.argv[1]))
medium = sys.argv[2]

def post(path, **data):
    answer = client.post(path, data, content_type="application/json")
    assert answer.status_code < 300, answer.content
    return answer.json()

reel = post("/api/reels", name="Quick", frame_rate="25/1")["id"]
head = client.get(f"/api/reels/{reel}").json()

def edit(**command):
    global head
    data = {"edit_id": str(uuid.uuid4()), "base": head["revision"], "commands": [command]}
    head = post(f"/api/reels/{reel}/edits", **data)
    return head

edit(kind="add_medium", medium={"id": medium, "path": "m.wav"})
edit(kind="add_track", track={"id": "t", "name": "Voice"})
edit(kind="add_clip", track="t", clip={"id": "c", "media": medium, "start": 0, "length": 96000})
edit(kind="add_treatment", track="t", id="f", start={"frame": 5}, end={"frame": 30})
for kind in ("reverb", "echo", "pitch", "space", "limit", "vibrato"):
    edit(kind="add_effect", owner="treatment:f", effect={"id": kind, "kind": kind})
lane = "treatment:f/reverb/mix"
for frame, value in ((5, 10.0), (12, 80.0), (9, None)):
    edit(kind="put_keyframes", keys=[{"lane": lane, "moment": {"frame": frame}, "value": value}])
edit(kind="set_speed", ids=["c"], percent=125.0)
lane = "clip:c/percent"
for frame, value in ((0, 100.0), (20, 60.0)):
    edit(kind="put_keyframes", keys=[{"lane": lane, "moment": {"frame": frame}, "value": value}])
assert head["derived"]["tails"] and head["derived"]["speeds"], head["derived"]
assert client.get("/api/effects").status_code == 200
assert client.get(f"/api/reels/{reel}").status_code == 200
print([name for name in ("numba", "llvmlite", "scipy.signal", "scipy.fft") if name in sys.modules])
"""


@pytest.mark.django_db(transaction=True)
def test_edits_are_answered_without_the_compiler(api, media):
    database = connection.settings_dict
    place = f"{database['HOST']}:{database['PORT']}/{database['NAME']}"
    env = {
        **os.environ,
        "DATABASE_URL": f"postgresql://{database['USER']}:{database['PASSWORD']}@{place}",
        "DJANGO_SETTINGS_MODULE": "bathyphon.server.settings.testing",
        "PYTHONPATH": str(ROOT / "src"),
    }
    done = subprocess.run(
        [sys.executable, "-c", ASKED, api.user.username, str(media.pk)],
        env=env,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr[-2000:]
    assert done.stdout.strip() == "[]"
