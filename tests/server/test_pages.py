"""What is sent before anybody has signed in, and how."""

import gzip
import os

import brotli
import pytest
from asgiref.sync import async_to_sync
from django.test import AsyncClient
from whitenoise.compress import main as compress_main


@pytest.fixture
def dist(settings, tmp_path):
    """A front end of two files."""
    settings.WEB_DIST = tmp_path
    (tmp_path / "index.html").write_text("<p>page</p>")
    (tmp_path / "assets").mkdir()
    (tmp_path / "assets" / "a-1.js").write_text("let a = 1;\n" * 500)
    (tmp_path / "assets" / "a-1.woff2").write_bytes(bytes(5000))
    return tmp_path


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("path", "there"), [("/", "/sign-in"), ("/reels/x", "/sign-in?to=%2Freels%2Fx")]
)
def test_who_is_not_signed_in_is_sent_there_and_comes_back(dist, client, path, there):
    response = client.get(path)
    assert (response.status_code, response["Location"]) == (302, there)


@pytest.mark.django_db
def test_signing_in_and_what_is_not_there_are_for_everybody(dist, client):
    for path in ("/sign-in", "/nowhere"):
        assert client.get(path).content == b"<p>page</p>"


def test_scripts_are_sent_compressed_to_whom_can_read_it(dist):
    get = async_to_sync(AsyncClient().get)
    compress_main(["-q", str(dist / "assets")])
    short = get("/assets/a-1.js", headers={"Accept-Encoding": "gzip, br"})
    assert short["Content-Encoding"] == "br"
    assert brotli.decompress(short.content) == (dist / "assets" / "a-1.js").read_bytes()
    packed = get("/assets/a-1.js", headers={"Accept-Encoding": "gzip"})
    assert packed["Content-Encoding"] == "gzip"
    assert gzip.decompress(packed.content) == (dist / "assets" / "a-1.js").read_bytes()
    assert "immutable" in packed["Cache-Control"]
    plain = get("/assets/a-1.js")
    assert "Content-Encoding" not in plain
    font = get("/assets/a-1.woff2", headers={"Accept-Encoding": "gzip"})
    assert "Content-Encoding" not in font
    gone = get("/assets/gone.js", headers={"Accept-Encoding": "gzip"})
    assert gone.status_code == 404
    known = get("/assets/a-1.js", headers={"If-None-Match": plain["ETag"]})
    assert (known.status_code, known.content) == (304, b"")
    for path in ("/assets/../index.html", "/assets/%2e%2e/index.html", "/assets//etc/passwd"):
        assert get(path).status_code == 404


def test_a_front_end_that_is_built_anew_is_found(dist):
    get = async_to_sync(AsyncClient().get)
    assert get("/assets/b-2.js").status_code == 404
    (dist / "assets" / "b-2.js").write_text("let b = 2;")
    (dist / "index.html").write_text("<p>another page</p>")
    os.utime(dist / "index.html", ns=(1, 1))
    assert get("/assets/b-2.js").content == b"let b = 2;"


@pytest.mark.django_db
def test_long_answers_are_sent_compressed_and_the_same(api, reel):
    """What is text and long is; what streams, or is no text, is sent as it is."""
    for path in (f"/api/reels/{reel.pk}", "/api/effects", "/api/sounds"):
        whole = api.get(path)
        assert "Content-Encoding" not in whole
        packed = api.get(path, **{"Accept-Encoding": "gzip"})
        assert packed["Content-Encoding"] == "gzip", path
        # Random bytes are added, so that lengths tell nobody what stands in it.
        assert len(packed.content) < 0.6 * len(whole.content) + 120
        assert gzip.decompress(packed.content) == whole.content
        assert "Accept-Encoding" in packed["Vary"]
    answer, sound = api.fetch(f"/api/reels/{reel.pk}/sound/treated/0?revision=1",
                              **{"Accept-Encoding": "gzip"})  # fmt: skip
    assert "Content-Encoding" not in answer
    assert len(sound) > 1000
