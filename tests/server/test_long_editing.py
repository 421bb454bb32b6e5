"""Hours of editing do not fill the server's memory."""

import gc
import re
from pathlib import Path

import pytest
from conftest import RATE

from bathyphon.server.reels.journal import create_reel
from reels import document

pytestmark = [pytest.mark.long, pytest.mark.django_db(transaction=True)]
EDITS, WARM = 500, 700
MOST_MIB = 6


def large(medium):
    """1,000 clips, 300 treatments and 20,000 keyframes on ten tracks."""
    doc = document(RATE)
    doc["media"] = [{"id": medium, "path": "noise.wav"}]
    long = 36 * RATE
    moving = [{"at": k * RATE, "value": 300.0 + k} for k in range(67)]
    doc["tracks"] = [
        {
            "id": f"t{n}",
            "clips": [
                {"id": f"c{n}-{i}", "media": medium, "start": i * long, "length": long}
                for i in range(100)
            ],
            "treatments": [
                {
                    "id": f"f{n}-{i}", "start": i * 3 * long, "length": 2 * long,
                    "effects": [{"id": "e", "kind": "muffle",
                                 "params": {"high_cut_hz": {"keyframes": moving}}}],
                }
                for i in range(30)
            ],
        }
        for n in range(10)
    ]  # fmt: skip
    return doc


def resident():
    """Resident memory of this process, MiB."""
    status = Path("/proc/self/status").read_text()
    return int(re.search(r"VmRSS:\s+(\d+)", status)[1]) / 1024


def test_500_edits_of_a_large_reel_leave_the_memory_as_it_was(api, media):
    reel = create_reel(api.user, large(str(media.pk)))
    revision = reel.revision

    def edit(count):
        nonlocal revision
        for k in range(count):
            key = {"lane": "treatment:f3-4/e/high_cut_hz", "moment": {"frame": 11000 + k % 60}}
            answer = api.edit(
                reel, revision, kind="put_keyframes", keys=[{**key, "value": 300.0 + k}]
            )
            assert answer.status_code == 200
            revision = answer.json()["revision"]
            if k % 5 == 0:
                assert api.get(f"/api/reels/{reel.pk}").status_code == 200
        gc.collect()

    edit(WARM)
    before = resident()
    edit(EDITS)
    assert resident() - before < MOST_MIB
