"""The command line: what it prints, what it writes, how it refuses."""

import json
import os
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import pytest
import soundfile

from bathyphon.cli import main
from reels import document, effect, noise, treatment

ROOT = Path(__file__).parents[2]

RATE = 48000


@dataclass
class Done:
    """What a command left behind."""

    returncode: int
    stdout: str
    stderr: str


@pytest.fixture
def run(tmp_path, monkeypatch, capsys):
    """Runs a command in this process, which starting Python anew each time would take ages."""
    monkeypatch.setenv("BATHYPHON_CACHE", str(tmp_path / "cache"))

    def call(*arguments):
        capsys.readouterr()
        try:
            status = main([str(a) for a in arguments])
        except SystemExit as stopped:
            status = stopped.code
        said = capsys.readouterr()
        return Done(status, said.out, said.err)

    return call


@pytest.mark.parametrize(
    ("arguments", "status", "said"),
    [(["effects"], 0, "reverb"), (["render", "none.json", "out.wav"], 2, "no file"), ([], 2, "")],
)
def test_it_is_a_command_of_its_own(arguments, status, said):
    done = subprocess.run(
        [sys.executable, "-m", "bathyphon.cli", *arguments],
        capture_output=True, text=True, check=False, env={**os.environ, "PYTHONPATH": "src"},
    )  # fmt: skip
    assert done.returncode == status
    assert said in done.stdout + done.stderr
    assert "Traceback" not in done.stderr


@pytest.mark.parametrize("command", ["render", "treat", "stretch", "measure", "effects"])
def test_the_one_command_knows_it(command):
    """As the README says it: ``./bathyphon`` and the command."""
    done = subprocess.run(
        [ROOT / "bathyphon", command, "--help"], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.startswith(f"usage: bathyphon {command}")
    listed = subprocess.run([ROOT / "bathyphon", "help"], capture_output=True, text=True)
    assert f"bathyphon {command} " in listed.stdout


def imported_by(code):
    """Which of what is slow to import a process has imported then."""
    slow = ("numba", "scipy.signal", "scipy.linalg", "scipy.fft", "pydantic", "av")
    done = subprocess.run(
        [sys.executable, "-c", f"{code}\nimport sys; print(*(set({slow}) & set(sys.modules)))"],
        capture_output=True, text=True, check=True, env={**os.environ, "PYTHONPATH": "src"},
    )  # fmt: skip
    return sorted(done.stdout.split())


def test_what_is_slow_to_import_waits_until_it_is_needed():
    """Every start of a command, a server or a worker would wait for it."""
    assert imported_by("from bathyphon.core.effects import EFFECTS") == []
    assert imported_by("import bathyphon.cli, bathyphon.commands.effects") == []
    assert imported_by("from bathyphon.core.reel.schema import reel_schema") == ["pydantic"]
    assert imported_by("import bathyphon.core.engine.graph, bathyphon.core.edits") == ["pydantic"]
    assert imported_by("import bathyphon.core.engine.render") == ["numba", "pydantic"]


def test_a_thread_that_imports_linear_algebra_meanwhile_gets_it():
    """The compiler is told that there is none, and nobody else."""
    code = """
import threading, sys
sys.setswitchinterval(1e-6)
from concurrent.futures import ThreadPoolExecutor
with ThreadPoolExecutor(2) as pool:
    both = [pool.submit(__import__, m) for m in ("scipy.linalg", "bathyphon.core.compiled")]
    [one.result() for one in both]
"""
    assert imported_by(code) == ["numba", "scipy.linalg"]


@pytest.fixture
def reel(tmp_path):
    soundfile.write(tmp_path / "m1.wav", noise(2 * RATE).T, RATE, subtype="FLOAT")
    doc = document(
        2 * RATE,
        treatments=[treatment(RATE // 2, RATE, effect("muffle"), ramp_in={"length": 5760})],
        start_timecode="01:00:00:00",
    )
    path = tmp_path / "reel.json"
    path.write_text(json.dumps(doc))
    return path


def read(path):
    return soundfile.read(path, dtype="float32", always_2d=True)[0].T


def test_render_blocks_and_threads_give_the_same_samples(run, reel, tmp_path):
    outs = []
    for i, options in enumerate(
        [("--block", "64"), ("--block", "333"), ("--block", "4096", "--threads", "2"),
         ("--block", "whole")]
    ):  # fmt: skip
        out = tmp_path / f"{i}.wav"
        done = run("render", reel, out, "--bits", "32f", *options)
        assert done.returncode == 0, done.stderr
        outs.append(read(out).tobytes())
    assert len(set(outs)) == 1


def test_render_says_what_it_did(run, reel, tmp_path):
    done = run("render", reel, tmp_path / "o.wav", "--json")
    said = json.loads(done.stdout)
    assert (said["samples"], said["bits"], said["treated"]) == (2 * RATE, "24", True)
    assert soundfile.info(tmp_path / "o.wav").subtype == "PCM_24"


def test_render_a_slice_by_timecode_and_the_stems(run, reel, tmp_path):
    run("render", reel, tmp_path / "all.wav", "--bits", "32f")
    done = run(
        "render", reel, tmp_path / "part.wav", "--bits", "32f", "--from", "01:00:00:10",
        "--to", "01:00:01:00", "--stems", tmp_path / "stems",
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    part = read(tmp_path / "part.wav")
    assert part.tobytes() == read(tmp_path / "all.wav")[:, 19200:48000].copy().tobytes()
    assert read(tmp_path / "stems" / "01 Music.wav").tobytes() == part.tobytes()


@pytest.mark.parametrize(
    ("change", "arguments", "message"),
    [
        ({}, ("--from", "9 o'clock"), "not a timecode"),
        ({}, ("--from", "02:00:00:00"), "within the reel"),
        ({}, ("--block", "-3"), "--block"),
        ({}, ("--threads", "0"), "--threads"),
        ({"sample_rate": "fast"}, (), "sample_rate"),
        ({"format": "film"}, (), "format"),
        ({"media": [{"id": "m1", "path": "gone.wav"}]}, (), "no such file"),
    ],
)
def test_render_refuses_in_one_line(run, reel, tmp_path, change, arguments, message):
    reel.write_text(json.dumps(json.loads(reel.read_text()) | change))
    done = run("render", reel, tmp_path / "o.wav", *arguments)
    assert done.returncode == 2
    assert message in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1
    assert not (tmp_path / "o.wav").exists()


@pytest.mark.parametrize("text", ["{", "[1, 2]", '{"format": NaN}', "[" * 5000])
def test_what_is_no_reel_is_refused(run, tmp_path, text):
    (tmp_path / "bad.json").write_text(text)
    done = run("render", tmp_path / "bad.json", tmp_path / "o.wav")
    assert done.returncode == 2
    assert "Traceback" not in done.stderr


def test_treat_adds_the_tail_and_keeps_the_rate(run, tmp_path):
    soundfile.write(tmp_path / "a.wav", noise(22050)[0], 44100, subtype="FLOAT")
    out = tmp_path / "b.wav"
    done = run("treat", tmp_path / "a.wav", out, "--effect", "echo", "time_ms=100", "feedback=50")
    assert done.returncode == 0, done.stderr
    info = soundfile.info(out)
    assert (info.samplerate, info.channels, info.subtype) == (44100, 2, "FLOAT")
    assert info.frames == 22050 + 16 * 4410
    run("treat", tmp_path / "a.wav", out, "--effect", "echo", "--tail", "none")
    assert soundfile.info(out).frames == 22050
    run("treat", tmp_path / "a.wav", out, "--effect", "echo", "--tail", "1.5")
    assert soundfile.info(out).frames == 22050 + 66150


@pytest.mark.parametrize(
    ("arguments", "message"),
    [
        (("--effect", "polish"), "no effect"),
        (("--effect", "echo", "shine=3"), "PARAM=VALUE"),
        (("--effect", "echo", "time_ms=soon"), "give Time in ms"),
        (("--effect", "echo", "time_ms=-5"), "between 1 ms and"),
        (("--effect", "echo", "--tail", "long"), "--tail"),
        ((), "--effect"),
    ],
)
def test_treat_refuses_in_one_line(run, tmp_path, arguments, message):
    soundfile.write(tmp_path / "a.wav", noise(4800).T, RATE)
    done = run("treat", tmp_path / "a.wav", tmp_path / "b.wav", *arguments)
    assert done.returncode == 2
    assert message in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_measure_reads_a_sine(run, tmp_path):
    t = np.arange(5 * RATE) / RATE
    x = 10 ** (-23 / 20) * np.sin(2 * np.pi * 1000 * t)
    soundfile.write(tmp_path / "s.wav", np.stack([x, x]).T, RATE, subtype="FLOAT")
    said = json.loads(run("measure", tmp_path / "s.wav", "--json", "--rt").stdout)
    assert abs(said["loudness_lufs"] + 23) < 0.1
    assert abs(said["true_peak_dbtp"] + 23) < 0.05
    assert said["samples"] == 5 * RATE
    assert len(said["decay"]) == 8


def test_measure_over_a_stretch_and_against_another(run, tmp_path):
    rng = np.random.default_rng(2)
    x = 0.1 * rng.standard_normal((2, 6 * RATE))
    later = 0.5 * np.roll(x, 240, axis=1)
    soundfile.write(tmp_path / "a.wav", x.T, RATE, subtype="FLOAT")
    soundfile.write(tmp_path / "b.wav", later.T, RATE, subtype="FLOAT")
    said = json.loads(
        run("measure", tmp_path / "b.wav", "--against", tmp_path / "a.wav", "--json").stdout
    )["against"]
    assert said["delay_samples"] == 240
    assert said["correlation"] == pytest.approx(1.0, abs=0.01)
    assert said["louder_lu"] == pytest.approx(-6.02, abs=0.02)
    assert all(band["db"] == pytest.approx(-6.02, abs=0.3) for band in said["octaves"])
    part = json.loads(run("measure", tmp_path / "a.wav", "--over", "1.5-0:04", "--json").stdout)
    assert (part["from_sample"], part["samples"]) == (round(1.5 * RATE), round(2.5 * RATE))
    for wrong, message in (("soon", "FROM-TO"), ("4-2", "FROM-TO"), ("7-", "ends before")):
        done = run("measure", tmp_path / "a.wav", "--over", wrong)
        assert done.returncode == 2
        assert message in done.stderr
        assert len(done.stderr.strip().splitlines()) == 1


def test_measure_finds_what_sounds_wrong_in_a_reel(run, tmp_path):
    reel = document(4 * RATE, clip={"gain_db": 24.0})
    (tmp_path / "reel.json").write_text(json.dumps(reel))
    soundfile.write(tmp_path / "m1.wav", noise(4 * RATE).T, RATE, subtype="FLOAT")
    said = json.loads(run("measure", tmp_path / "reel.json", "--findings", "--json").stdout)
    found = {f["of"]: f for f in said["findings"] if f["kind"] == "clipping"}
    # The clip is raised too far, and the mix clips for it.
    assert found.keys() == {"clip:c1", "mix"}
    clipping = found["mix"]
    assert clipping["sure"] == 1
    assert clipping["from"] < clipping["to"] <= 4 * RATE
    assert clipping["cure"]["commands"]
    assert "clips" in run("measure", tmp_path / "reel.json", "--findings").stdout
    done = run("measure", tmp_path / "m1.wav", "--findings")
    assert done.returncode == 2
    assert "reel.json" in done.stderr


def test_effects_prints_every_table(run):
    tables = json.loads(run("effects", "--json").stdout)["effects"]
    assert {"gain", "muffle", "echo", "reverb"} <= {t["id"] for t in tables}
    assert all(
        {"id", "unit", "low", "high", "scale", "default", "neutral"} <= p.keys()
        for t in tables
        for p in t["parameters"]
    )


def test_treat_takes_names_lists_and_files(run, tmp_path):
    soundfile.write(tmp_path / "a.wav", noise(RATE // 2).T, RATE, subtype="FLOAT")
    pulse = np.zeros((200, 2))
    pulse[0] = 1.0
    soundfile.write(tmp_path / "pulse.wav", pulse, 24000, subtype="FLOAT")
    soundfile.write(tmp_path / "paths.wav", np.tile(pulse, 2), 24000, subtype="FLOAT")
    out = tmp_path / "b.wav"
    for words in (
        ["eq", "bands.0.type=low_cut", "bands.0.freq_hz=730", "bands.1.gain_db=3"],
        ["drive", "shape=fold"],
        ["pan", "law=-6"],
        ["space", f"file={tmp_path / 'pulse.wav'}"],
        ["space", f"file={tmp_path / 'paths.wav'}"],
    ):
        done = run("treat", tmp_path / "a.wav", out, "--effect", *words)
        assert done.returncode == 0, done.stderr
        assert soundfile.info(out).samplerate == RATE
    for words, said in (
        (["eq", "bands.9.freq_hz=100"], "bands.0.freq_hz"),
        (["drive", "shape=round"], "expected one of soft, hard, fold"),
        (["space", "file=nowhere.wav"], "no file"),
        (["duck", "track=t2"], "no other track"),
    ):
        done = run("treat", tmp_path / "a.wav", out, "--effect", *words)
        assert done.returncode == 2
        assert said in done.stderr
        assert done.stderr.count("\n") == 1


@pytest.mark.parametrize("channels", [1, 2])
def test_stretch_fits_a_file_and_keeps_its_channels(run, tmp_path, channels):
    t = np.arange(12 * RATE) / RATE
    sound = 0.2 * np.sin(2 * np.pi * 440 * t)[:, None].repeat(channels, axis=1)
    soundfile.write(tmp_path / "a.wav", sound, RATE, subtype="FLOAT")
    done = run("stretch", tmp_path / "a.wav", tmp_path / "b.wav", "--to", "10", "--json")
    said = json.loads(done.stdout)
    assert said["percent"] == pytest.approx(120)
    assert said["pitch_semitones"] == 0
    found, rate = soundfile.read(tmp_path / "b.wav", always_2d=True)
    assert (found.shape, rate) == ((10 * RATE, channels), RATE)
    done = run("stretch", tmp_path / "a.wav", tmp_path / "c.wav", "--speed", "110",
               "--pitch", "follow")  # fmt: skip
    assert "+1.650 st" in done.stdout


def test_stretch_at_its_own_speed_and_pitch_gives_the_same_samples(run, tmp_path):
    soundfile.write(tmp_path / "a.wav", noise(9000).T, RATE, subtype="FLOAT")
    assert run("stretch", tmp_path / "a.wav", tmp_path / "b.wav", "--speed", "100").returncode == 0
    same, _ = soundfile.read(tmp_path / "b.wav", dtype="float32")
    assert np.array_equal(same, noise(9000).T.astype(np.float32))


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["--speed", "5"], "give 10 to 400 percent"),
        (["--to", "0"], "give seconds above 0"),
        (["--to", "100"], "would take 0.1"),
        (["--speed", "100", "--semitones", "25"], "outside −24 to 24"),
        ([], "one of the arguments --speed --to is required"),
        (["--speed", "nan"], "give 10 to 400 percent"),
    ],
)
def test_stretch_refuses_what_cannot_be_in_one_sentence(run, tmp_path, words, said):
    soundfile.write(tmp_path / "a.wav", noise(9000).T, RATE, subtype="FLOAT")
    done = run("stretch", tmp_path / "a.wav", tmp_path / "b.wav", *words)
    assert done.returncode == 2
    assert said in done.stderr
    assert done.stderr.count("\n") == 1
    assert not (tmp_path / "b.wav").exists()


@pytest.fixture
def lively(tmp_path):
    """A reel in a folder: two tracks, a gap, overlaps, a ring-out and a track that gives way."""
    n = RATE // 2
    soundfile.write(tmp_path / "m1.wav", noise(4 * n, 3).T, RATE, subtype="FLOAT")
    doc = document(3 * n, treatments=[
        treatment(n, 2 * n, effect("vibrato"), effect("reverb", decay_s=0.6)),
    ])  # fmt: skip
    doc["tracks"].append({
        "id": "t2", "name": "Low",
        "clips": [{"id": "c2", "media": "m1", "start": 4 * n, "length": n, "source_start": n}],
        "treatment": {"effects": [{"id": "e", **effect("duck", track="t1")}]},
    })  # fmt: skip
    doc["mix"] = {"treatment": {"effects": [{"id": "e", **effect("chorus")}]}}
    path = tmp_path / "reel.json"
    path.write_text(json.dumps(doc))
    return path


@pytest.mark.parametrize("more", [[], ["--order", "1"], ["--order", "77"]])
@pytest.mark.parametrize(
    "also", [[], ["--untreated"], ["--from", "00:00:00:20", "--to", "00:00:02:03"]]
)
def test_the_player_s_path_gives_the_bits_of_the_render(run, lively, tmp_path, more, also):
    sounds = []
    for name, through in (("plain", []), ("live", ["--through", "live", *more])):
        out, stems = tmp_path / f"{name}.wav", tmp_path / name
        done = run("render", lively, out, "--bits", "32f", "--stems", stems, *also, *through)
        assert done.returncode == 0, done.stderr
        paths = [out, *sorted(stems.iterdir())]
        assert len(paths) == 3
        sounds.append([soundfile.read(path, dtype="float32")[0] for path in paths])
        assert ("player's path" in done.stdout) == (name == "live")
    for plain, live in zip(*sounds, strict=True):
        assert plain.any()
        assert plain.tobytes() == live.tobytes()


@pytest.mark.parametrize(
    ("arguments", "sentence"),
    [
        (["--order", "3"], "--order needs --through live"),
        (["--through", "live", "--order", "x"], "“x” is no seed"),
        (["--through", "air"], "invalid choice"),
    ],
)
def test_an_order_that_makes_no_sense_is_refused_in_one_line(
    run, lively, tmp_path, arguments, sentence
):
    done = run("render", lively, tmp_path / "out.wav", *arguments)
    assert done.returncode == 2
    assert sentence in done.stderr
    assert done.stderr.count("\n") == 1


def test_whoever_has_heard_enough_gets_no_complaint():
    env = {**os.environ, "PYTHONPATH": "src"}
    command = [sys.executable, "-m", "bathyphon.cli", "effects", "--json"]
    with subprocess.Popen(
        command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, env=env, text=True
    ) as running:
        assert running.stdout
        assert running.stderr
        running.stdout.close()
        said = running.stderr.read()
    assert said == ""
