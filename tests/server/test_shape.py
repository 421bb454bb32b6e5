"""What the rest of the project relies on: the API's description, pages, headers, migrations."""

import sys
from pathlib import Path

import pytest
from django.core.management import call_command
from django.test import Client

from bathyphon.server.openapi import description

ROOT = Path(__file__).parents[2]


def test_the_shipped_api_description_is_the_code_s():
    assert (ROOT / "web" / "openapi.json").read_text() == description()


@pytest.mark.django_db
def test_models_and_migrations_agree():
    call_command("makemigrations", "--check", "--dry-run", verbosity=0)


@pytest.mark.django_db
def test_pages_carry_a_policy_that_runs_nothing_foreign():
    answer = Client().get("/reels/whatever")
    assert "default-src 'self'" in answer["Content-Security-Policy"]
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert answer["X-Frame-Options"] == "DENY"


@pytest.mark.django_db
def test_the_effects_reach_the_front_end(api):
    tables = api.get("/api/effects").json()
    muffle = next(t for t in tables if t["id"] == "muffle")
    high_cut = next(p for p in muffle["parameters"] if p["id"] == "high_cut_hz")
    assert (high_cut["unit"], high_cut["scale"], high_cut["neutral"]) == ("Hz", "log", 20000.0)


def test_a_new_reel_needs_a_name_and_a_rate(api):
    assert api.post("/api/reels", {"name": " "}).status_code == 422
    bad = api.post("/api/reels", {"name": "x", "frame_rate": "fast"})
    assert bad.status_code == 422
    assert "25/1" in bad.json()["detail"]
    good = api.post("/api/reels", {"name": "x", "frame_rate": "24000/1001"})
    assert good.status_code == 201
    assert [r["name"] for r in api.get("/api/reels").json()] == ["x"]


def test_a_reel_in_the_trash_is_gone_from_the_list(api, reel):
    assert api.delete(f"/api/reels/{reel.pk}").status_code == 204
    assert api.get("/api/reels").json() == []
    assert api.get(f"/api/reels/{reel.pk}").status_code == 404


def test_the_front_end_s_clock_is_tested_against_the_core_s_values():
    sys.path.insert(0, str(ROOT / "tools"))
    import clock_fixtures

    assert clock_fixtures.OUT.read_text() == clock_fixtures.text()
