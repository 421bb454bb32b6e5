"""What is sent before anybody has signed in, and how."""

import gzip

import pytest
from asgiref.sync import async_to_sync
from django.test import AsyncClient


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
    packed = get("/assets/a-1.js", headers={"Accept-Encoding": "gzip, br"})
    assert packed["Content-Encoding"] == "gzip"
    assert gzip.decompress(packed.content) == (dist / "assets" / "a-1.js").read_bytes()
    assert "immutable" in packed["Cache-Control"]
    plain = get("/assets/a-1.js")
    assert "Content-Encoding" not in plain
    font = get("/assets/a-1.woff2", headers={"Accept-Encoding": "gzip"})
    assert "Content-Encoding" not in font
    gone = get("/assets/gone.js", headers={"Accept-Encoding": "gzip"})
    assert gone.status_code == 404
