"""Known content through containers and back: the sound on its sample, the picture on its frame."""

from fractions import Fraction
from itertools import product

import av
import numpy as np
import pytest
from scipy.signal import fftconvolve

from bathyphon.core.errors import Refused
from bathyphon.formats.conform import ConformedFile
from bathyphon.formats.decode import probe
from bathyphon.formats.prepare import prepare
from thinned import thinned

RATE = 48000
SIZE = (64, 48)
FLASH = 20
CODECS = {"mp4": ("libx264", "aac"), "mov": ("libx264", "pcm_s16le"),
          "mkv": ("libx264", "flac"), "webm": ("libvpx-vp9", "libopus")}  # fmt: skip


def flash_film(path, rate, late=Fraction(0), varying=False, frames=40, sounds=1):
    """A film that is white at frame 20 alone, with a click at the time of that frame.

    ``late`` seconds shift the sound against the picture, by its own time stamps; with ``varying``
    every third frame is missing, so that the one before stays twice as long.
    """
    video_codec, audio_codec = CODECS[path.suffix[1:]]
    # MP4's writer would round an offset to milliseconds, the file would then not hold what we say.
    exact = {"movie_timescale": str(RATE)} if path.suffix in (".mp4", ".mov") else {}
    with av.open(str(path), "w", options=exact) as out:
        video = out.add_stream(video_codec, rate=rate)
        video.width, video.height, video.pix_fmt = *SIZE, "yuv420p"
        video.time_base = 1 / rate
        if video_codec == "libvpx-vp9":
            video.options = {"deadline": "realtime", "cpu-used": "8", "lag-in-frames": "0"}
        else:
            video.options = {"preset": "ultrafast", "bf": "0"}
        voices = [out.add_stream(audio_codec, rate=RATE, layout="stereo") for _ in range(sounds)]
        click = round(FLASH / rate * RATE)
        n = round(frames / rate * RATE)
        for i in range(frames):
            if varying and i % 3 == 2 and abs(i - FLASH) > 1:
                continue
            image = np.full((SIZE[1], SIZE[0], 3), 235 if i == FLASH else 20, np.uint8)
            frame = av.VideoFrame.from_ndarray(image, "rgb24")
            frame.pts, frame.time_base = i, 1 / rate
            out.mux(video.encode(frame))
        out.mux(video.encode())
        for k, voice in enumerate(voices):
            x = np.zeros((2, n), np.float32)
            t = np.arange(960) / RATE
            x[:, click : click + 960] = 0.8 * np.cos(2 * np.pi * (400 + 300 * k) * t) * (t < 0.01)
            size = voice.codec_context.frame_size or 1024
            kind = voice.codec_context.format.name
            for at in range(0, n, size):
                block = x[:, at : at + size]
                if kind in ("s16", "flt", "s32"):
                    full = {"s16": 32767, "s32": 2**31 - 256, "flt": 1.0}[kind]
                    data = np.ascontiguousarray(block.T.reshape(1, -1) * full)
                    data = data.astype({"s16": "int16", "s32": "int32", "flt": "float32"}[kind])
                else:
                    data = np.ascontiguousarray(block)
                frame = av.AudioFrame.from_ndarray(data, kind, "stereo")
                frame.rate, frame.time_base = RATE, Fraction(1, RATE)
                frame.pts = at + round(late * RATE)
                out.mux(voice.encode(frame))
            out.mux(voice.encode())


def picture_flash(folder):
    with av.open(str(folder / "proxy.mp4")) as proxy:
        light = [f.to_ndarray(format="gray").mean() for f in proxy.decode(video=0)]
    return int(np.argmax(light)), len(light)


RATES = [Fraction(24000, 1001), Fraction(24), Fraction(25), Fraction(30000, 1001), Fraction(30)]


def heard_click(folder, info):
    """Sample of the click against the picture's first frame, by correlation with the click."""
    sound = ConformedFile(folder / f"sound-{RATE}.f32")
    t = np.arange(960) / RATE
    click = np.cos(2 * np.pi * 400 * t) * (t < 0.01)
    likeness = fftconvolve(sound.read(0, sound.samples)[0], click[::-1])
    return int(np.argmax(likeness)) - (click.size - 1) + info["sound"]["starts"]


@pytest.mark.parametrize(("ending", "rate", "side"), thinned(product(CODECS, RATES, (0, 1, -1)), 2))
def test_sound_and_picture_stay_together(ending, rate, side, tmp_path):
    late = side * Fraction(1, 4)
    path = tmp_path / f"film.{ending}"
    flash_film(path, rate, late)
    info = prepare(path, tmp_path / "out", RATE, lambda told: None)
    assert picture_flash(tmp_path / "out") == (FLASH, 40)
    wanted = round(FLASH / rate * RATE) + round(late * RATE)
    # WebM counts whole milliseconds, and rounds the 6.5 ms by which Opus begins early as well.
    slack = RATE // 1000 if ending == "webm" and late else 0
    assert abs(heard_click(tmp_path / "out", info) - wanted) <= slack


@pytest.mark.parametrize("rate", [44_100, 96_000])
def test_in_reels_of_other_rates_too(rate, tmp_path):
    flash_film(tmp_path / "film.mov", Fraction(25), Fraction(1, 4))
    info = prepare(tmp_path / "film.mov", tmp_path / "out", rate, lambda told: None)
    sound = ConformedFile(tmp_path / "out" / f"sound-{rate}.f32")
    t = np.arange(rate // 50) / rate
    click = np.cos(2 * np.pi * 400 * t) * (t < 0.01)
    likeness = fftconvolve(sound.read(0, sound.samples)[0], click[::-1])
    found = int(np.argmax(likeness)) - (click.size - 1) + info["sound"]["starts"]
    assert abs(found - round(1.05 * rate)) <= 1


def test_a_varying_frame_rate_becomes_constant(tmp_path):
    flash_film(tmp_path / "phone.mkv", Fraction(30), varying=True)
    prepare(tmp_path / "phone.mkv", tmp_path / "out", RATE, lambda told: None)
    assert picture_flash(tmp_path / "out")[0] == FLASH


def test_each_of_several_sounds_can_be_had(tmp_path):
    flash_film(tmp_path / "two.mkv", Fraction(25), sounds=2)
    for stream, hz in ((0, 400), (1, 700)):
        info = prepare(tmp_path / "two.mkv", tmp_path / "out", RATE, lambda told: None, stream)
        assert info["sounds"] == 2
        name = f"sound-{RATE}{'-1' if stream else ''}.f32"
        x = ConformedFile(tmp_path / "out" / name).read(0, 60_000)[0]
        at = int(np.argmax(np.abs(x) > 0.25))
        spectrum = np.abs(np.fft.rfft(x[at : at + 480], 48_000))
        assert abs(int(np.argmax(spectrum)) - hz) < 60


def test_missing_packets_leave_silence_not_a_shift(tmp_path):
    path = tmp_path / "hole.mkv"
    with av.open(str(path), "w") as out:
        voice = out.add_stream("pcm_s16le", rate=RATE, layout="mono")
        for at in range(0, 48_000, 1000):
            if 10_000 <= at < 20_000:
                continue
            data = np.full((1, 1000), 1000 + at // 100, np.int16)
            frame = av.AudioFrame.from_ndarray(data, "s16", "mono")
            frame.rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
            out.mux(voice.encode(frame))
        out.mux(voice.encode())
    prepare(path, tmp_path / "out", RATE, lambda told: None)
    sound = ConformedFile(tmp_path / "out" / f"sound-{RATE}.f32")
    x = sound.read(0, sound.samples)[0]
    assert not x[10_100:19_900].any()
    assert x[30_500] == pytest.approx((1000 + 300) / 32768)


@pytest.mark.parametrize(
    "text",
    [
        b"#EXTM3U\n#EXT-X-VERSION:3\n#EXTINF:10,\n/etc/passwd\n#EXT-X-ENDLIST\n",
        b"ffconcat version 1.0\nfile '/etc/passwd'\n",
        b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
        b"v=0\r\no=- 0 0 IN IP4 127.0.0.1\r\nm=audio 5004 RTP/AVP 0\r\n",
    ],
)
def test_lists_that_lead_elsewhere_are_no_media(text, tmp_path):
    for name in ("list.m3u8", "list.mp4", "list.wav"):
        path = tmp_path / name
        path.write_bytes(text)
        with pytest.raises(Refused, match="cannot be read"):
            probe(path)
