"""Files of every kind get a clear answer or simply work."""

import io
import json
from fractions import Fraction
from types import SimpleNamespace

import av
import numpy as np
import pytest
import soundfile
from conftest import bring_in, prepare_here, wav
from django.db import connection

from bathyphon.formats.conform import ConformedFile
from bathyphon.formats.peaks import level_sizes
from bathyphon.server.media.intake import take
from bathyphon.server.media.models import Blob, Media
from bathyphon.server.media.signals import media_ready
from bathyphon.server.media.tasks import find_cuts_again, prepare_media
from bathyphon.server.reels.journal import create_reel
from reels import document, noise


def encoded(ending, seconds=1.0, rate=48000, layout="stereo", codec=None, tone=440.0):
    """A tone in a container."""
    buffer = io.BytesIO()
    with av.open(buffer, "w", format=ending) as out:
        stream = out.add_stream(codec, rate=rate, layout=layout)
        n = round(seconds * rate)
        t = np.arange(n) / rate
        channels = len(stream.codec_context.layout.channels)
        x = np.tile((0.3 * np.sin(2 * np.pi * tone * t)).astype(np.float32), (channels, 1))
        for start in range(0, n, 1024):
            frame = av.AudioFrame.from_ndarray(
                np.ascontiguousarray(x[:, start : start + 1024]), "fltp", layout
            )
            frame.rate, frame.pts, frame.time_base = rate, start, Fraction(1, rate)
            out.mux(stream.encode(frame))
        out.mux(stream.encode())
    return buffer.getvalue()


def film(frames=30, rate=Fraction(25), size=(64, 48)):
    """A film without sound."""
    buffer = io.BytesIO()
    with av.open(buffer, "w", format="mp4") as out:
        video = out.add_stream("libx264", rate=rate)
        video.width, video.height, video.pix_fmt = *size, "yuv420p"
        video.time_base = 1 / rate
        for i in range(frames):
            frame = av.VideoFrame.from_ndarray(
                np.full((size[1], size[0], 3), i * 7 % 256, np.uint8), "rgb24"
            )
            frame.pts, frame.time_base = i, 1 / rate
            out.mux(video.encode(frame))
        out.mux(video.encode())
    return buffer.getvalue()


@pytest.mark.parametrize(
    ("name", "content", "sentence"),
    [
        ("notes.wav", b"this is no sound at all, only text " * 40, "cannot be read"),
        ("page.mp4", b"<html><script>alert(1)</script></html>" * 30, "cannot be read"),
        ("head.wav", b"RIFF\x24\x00\x00\x00WAVE", "read"),
        ("cut.mp4", film()[:600], "read"),
        ("zeros.flac", b"\0" * 5000, "cannot be read"),
    ],
)
def test_what_is_no_media_is_refused_in_one_sentence(api, name, content, sentence):
    media = bring_in(api.user, name, content, apart=True)
    assert media.state == Media.FAILED
    assert sentence in media.error
    assert "Traceback" not in media.error
    assert "\n" not in media.error
    assert media.blob.digest not in media.error


def test_an_empty_file_is_refused_at_once(api):
    answer = api.upload("/api/media", io.BytesIO(b""))
    assert answer.status_code == 422


GOOD = [
    ("mono.wav", {"ending": "wav", "layout": "mono", "codec": "pcm_s16le"}, 48000),
    ("51.flac", {"ending": "flac", "layout": "5.1", "codec": "flac"}, 48000),
    ("low.wav", {"ending": "wav", "rate": 8000, "codec": "pcm_s16le"}, 8000),
    ("high.wav", {"ending": "wav", "rate": 192000, "codec": "pcm_s32le"}, 192000),
    ("tune.mp3", {"ending": "mp3", "codec": "libmp3lame"}, 48000),
    ("talk.opus", {"ending": "ogg", "codec": "libopus"}, 48000),
    ("misnamed.flac", {"ending": "wav", "codec": "pcm_s24le"}, 48000),
    ("no-ending", {"ending": "wav", "rate": 44100, "codec": "pcm_s16le"}, 44100),
]


@pytest.mark.parametrize(("name", "options", "rate"), GOOD)
def test_sounds_of_many_kinds_are_conformed(api, name, options, rate):
    media = bring_in(api.user, name, encoded(**options))
    assert media.state == Media.READY, media.error
    sound = media.info["sound"]
    assert sound["source_rate"] == rate
    assert abs(sound["samples"] - 48000) <= (0 if "mp3" not in name else 2400)
    x = ConformedFile(media.sound_path).read(0, sound["samples"])
    spectrum = np.abs(np.fft.rfft(x[0] * np.hanning(x.shape[1])))
    assert abs(np.argmax(spectrum) * 48000 / x.shape[1] - 440) < 2
    np.testing.assert_allclose(x[0], x[1], atol=1e-4)


def test_silence_and_damaged_samples_simply_work(api, tmp_path):
    silent = bring_in(api.user, "silent.wav", wav(np.zeros((2, 4800)), tmp_path))
    assert silent.state == Media.READY
    broken = np.zeros((2, 4800))
    broken[0, 100], broken[1, 200] = np.nan, np.inf
    media = bring_in(api.user, "broken.wav", wav(broken, tmp_path), apart=True)
    assert media.info["sound"]["not_finite"] == 2
    assert not ConformedFile(media.sound_path).read(0, 4800).any()


def test_a_truncated_sound_plays_as_far_as_it_goes(api):
    whole = encoded("flac", 2.0, codec="flac")
    media = bring_in(api.user, "cut.flac", whole[: len(whole) * 2 // 3])
    assert media.state == Media.READY
    assert 48000 < media.info["sound"]["samples"] < 96000


def test_aac_comes_back_at_its_own_length(api):
    media = bring_in(api.user, "talk.m4a", encoded("mp4", 1.2345, codec="aac"))
    assert media.info["sound"]["samples"] == round(1.2345 * 48000)


@pytest.mark.parametrize("rate", [Fraction(25), Fraction(24000, 1001), Fraction(30000, 1001)])
def test_a_film_gets_a_proxy_with_every_frame(api, rate):
    media = bring_in(api.user, "film.mp4", film(40, rate), apart=rate == 25)
    picture = media.info["picture"]
    assert picture["rate"] == f"{rate.numerator}/{rate.denominator}"
    assert picture["frames"] == 40
    with av.open(str(media.blob.prepared / "proxy.mp4")) as proxy:
        shades = [f.to_ndarray(format="gray").mean() for f in proxy.decode(video=0)]
    assert len(shades) == 40
    expected = np.array([i * 7 % 256 for i in range(40)])
    assert np.abs(np.array(shades) - expected).max() < 8


def test_peaks_hold_every_resolution(api, media, sound):
    for size in level_sizes():
        path = media.blob.prepared / f"peaks-{size}-48000.i16"
        peaks = np.fromfile(path, "<i2").reshape(-1, 3) / 32767
        assert len(peaks) == -(-sound.shape[1] // size)
        first = sound[:, :size]
        assert peaks[0][0] == pytest.approx(first.min(), abs=1e-4)
        assert peaks[0][1] == pytest.approx(first.max(), abs=1e-4)
        assert peaks[0][2] == pytest.approx(np.sqrt(np.mean(first**2)), rel=0.1)


def test_equal_bytes_are_stored_once(api, stranger, tmp_path):
    content = wav(noise(4800), tmp_path)
    a, b = bring_in(api.user, "a.wav", content), bring_in(stranger.user, "b.wav", content)
    assert a.pk != b.pk
    assert Blob.objects.filter(digest=a.blob.digest).count() == 1


def test_upload_over_http(api, tmp_path):
    wav(noise(4800), tmp_path, name="clip.wav")
    with (tmp_path / "clip.wav").open("rb") as file:
        answer = api.upload("/api/media", file)
    assert answer.status_code == 201
    assert answer.json()["state"] == "waiting"


def test_a_file_beyond_the_limit_is_refused(api, tmp_path, settings):
    settings.BATHYPHON_LARGEST_UPLOAD = 1000
    wav(noise(4800), tmp_path, name="clip.wav")
    with (tmp_path / "clip.wav").open("rb") as file:
        answer = api.upload("/api/media", file)
    assert answer.status_code == 422
    assert "larger" in json.loads(answer.content)["detail"]


def test_parts_are_served_with_byte_ranges(api, media):
    path = f"/api/media/{media.pk}/peaks-256.i16"
    whole, content = api.fetch(path)
    assert whole["Accept-Ranges"] == "bytes"
    part, some = api.fetch(path, Range="bytes=10-19")
    assert part.status_code == 206
    assert some == content[10:20]
    assert part["Content-Range"] == f"bytes 10-19/{len(content)}"
    assert api.fetch(path, Range="bytes=-5")[1] == content[-5:]
    assert api.fetch(path, Range="bytes=999999999-")[0].status_code == 416
    assert api.fetch(path, **{"If-None-Match": whole["ETag"]})[0].status_code == 304


def waiting_jobs():
    """Media of the jobs in the order in which a worker takes them."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT args->>'media' FROM procrastinate_jobs WHERE task_name = 'prepare_media' "
            "AND status = 'todo' ORDER BY priority DESC, id"
        )
        return [row[0] for row in cursor.fetchall()]


def test_what_is_on_the_screen_is_prepared_first(api, stranger):
    a, b, c = (take(api.user, f"{n}.wav", [n.encode()], 48000) for n in "abc")
    other = take(stranger.user, "d.wav", [b"d"], 48000)
    assert api.post("/api/media/first", {"media": [str(c.pk), str(other.pk)]}).status_code == 204
    assert waiting_jobs() == [str(m.pk) for m in (c, other, a, b)]
    api.post("/api/media/first", {"media": [str(b.pk)]})
    assert waiting_jobs() == [str(m.pk) for m in (b, other, a, c)]


@pytest.mark.django_db(transaction=True)
def test_a_preparation_can_be_stopped_and_taken_up_again(api, tmp_path):
    medium = take(api.user, "long.wav", [wav(noise(48000 * 60), tmp_path)], 48000)
    path = f"/api/media/{medium.pk}"

    class Context:
        job = SimpleNamespace(attempts=0)

        def should_abort(self):
            # The job is asked in the middle of its work: its owner stops it just then.
            if Media.objects.get(pk=medium.pk).state == Media.PREPARING:
                assert api.post(f"{path}/cancel").json()["state"] == "cancelled"
            return False

    prepare_media.func(Context(), str(medium.pk))
    assert api.get(path).json()["state"] == "cancelled"
    # A job that was waiting for it does nothing.
    prepare_media.func(Context(), str(medium.pk))
    assert api.get(path).json()["state"] == "cancelled"
    assert api.post(f"{path}/retry").json()["state"] == "waiting"
    assert api.post(f"{path}/cancel").json()["state"] == "cancelled"


def test_a_file_that_brings_its_worker_down_is_set_aside(api, tmp_path):
    medium = take(api.user, "hostile.wav", [wav(noise(4800), tmp_path)], 48000)
    # Its worker was killed three times on the way, and each time another took it up.
    context = SimpleNamespace(should_abort=lambda: False, job=SimpleNamespace(attempts=3))
    prepare_media.func(context, str(medium.pk))
    line = api.get(f"/api/media/{medium.pk}").json()
    assert line["state"] == "failed"
    assert "set aside" in line["error"]


def test_a_ready_medium_cannot_be_stopped(api, media):
    assert api.post(f"/api/media/{media.pk}/cancel").json()["state"] == "ready"


def test_a_picture_laid_in_before_it_is_ready_gets_its_cuts(api):
    medium = take(api.user, "film.mp4", [film(60)], 48000)
    doc = document(48000 * 2)
    doc["media"] = [{"id": str(medium.pk), "path": "film.mp4"}]
    doc["tracks"] = []
    doc["picture"] = {"clips": [{"media": str(medium.pk), "start": 0, "length": 96000}]}
    reel = create_reel(api.user, doc)
    info = prepare_here(medium)
    info["picture"]["cuts"] = [
        {"frame": 25, "length": 0, "kind": "hard"},
        {"frame": 40, "length": 8, "kind": "dissolve"},
    ]
    medium.state, medium.info = Media.READY, info
    medium.save()
    media_ready.send(Media, media=medium)
    found = api.get(f"/api/reels/{reel.pk}").json()
    assert found["document"]["picture"]["cuts"] == [25, 40]
    media_ready.send(Media, media=medium)
    assert api.get(f"/api/reels/{reel.pk}").json()["revision"] == found["revision"]


def test_what_failed_can_be_tried_again(api):
    failed = bring_in(api.user, "notes.wav", b"no sound " * 50, apart=True)
    assert api.get(f"/api/media/{failed.pk}").json()["state"] == "failed"
    again = api.post(f"/api/media/{failed.pk}/retry").json()
    assert (again["state"], again["error"]) == ("waiting", "")
    assert str(failed.pk) in waiting_jobs()


def test_cuts_are_found_again_with_another_sensitivity(api):
    medium = bring_in(api.user, "film.mp4", film(30))
    answer = api.post(f"/api/media/{medium.pk}/cuts", {"sensitivity": 0.8})
    assert answer.status_code == 202
    find_cuts_again.func(media=str(medium.pk), sensitivity=0.8)
    found = api.get(f"/api/media/{medium.pk}").json()["info"]["picture"]
    assert found["sensitivity"] == 0.8
    assert api.post(f"/api/media/{medium.pk}/cuts", {"sensitivity": 2}).status_code == 422


def test_a_medium_is_listened_to_by_itself(api, stranger, media, sound):
    """A WAV that any browser plays: header and samples are those of the medium."""
    path = f"/api/media/{media.pk}/sound.wav"
    answer, body = api.fetch(path)
    assert (answer.status_code, answer["Content-Type"]) == (200, "audio/wav")
    heard, rate = soundfile.read(io.BytesIO(body), dtype="float64", always_2d=True)
    assert rate == media.rate
    assert heard.T.shape == sound.shape
    assert np.abs(heard.T - np.clip(sound, -1, 1)).max() <= 1.01 / 32767
    assert stranger.fetch(path)[0].status_code == 404
