"""Reels as one file: they sound the same elsewhere, and nothing in them leads astray."""

from __future__ import annotations

import hashlib
import io
import json
import stat
import warnings
import zipfile

import numpy as np
import pytest
import soundfile

from bathyphon.cli import main
from bathyphon.core.errors import Refused
from bathyphon.formats.archive import Archive, is_foreign, packed, source_of_file

RATE = 48000


@pytest.fixture
def reel(tmp_path):
    """Two media of one name in two folders, one of them twice, one as a response of an effect."""
    chance = np.random.default_rng(5)
    home = tmp_path / "home"
    for folder, seconds in (("voices", 3.0), ("rooms", 0.5)):
        (home / folder).mkdir(parents=True)
        x = 0.1 * chance.standard_normal((round(seconds * RATE), 2))
        soundfile.write(home / folder / "take.wav", x, RATE, "PCM_16")
    place = {"id": "e", "kind": "space", "params": {"file": "room", "mix": 40}}
    clips = [
        {"id": f"c{k}", "media": media, "start": k * RATE, "length": RATE, "source_start": k * 480,
         "treatment": {"effects": [place] if k == 1 else []}}
        for k, media in enumerate(("voice", "again"))
    ]  # fmt: skip
    document = {
        "format": "bathyphon-reel", "version": 1, "frame_rate": "25/1", "sample_rate": RATE,
        "name": "Sump", "later": {"kept": True},
        "media": [
            {"id": "voice", "path": "voices/take.wav"}, {"id": "again", "path": "voices/take.wav"},
            {"id": "room", "path": "rooms/take.wav"}, {"id": "unused", "path": "gone.wav"},
        ],
        "tracks": [{"id": "t", "name": "Voice", "clips": clips, "treatments": []}],
    }  # fmt: skip
    path = home / "reel.json"
    path.write_text(json.dumps(document))
    return path


def run(*arguments):
    return main([str(a) for a in arguments])


def digest(path):
    return hashlib.sha256(path.read_bytes()).hexdigest()


def test_unpacked_elsewhere_it_renders_to_the_same_bits(reel, tmp_path, monkeypatch):
    monkeypatch.setenv("BATHYPHON_CACHE", str(tmp_path / "cache"))
    archive, there = tmp_path / "sump.zip", tmp_path / "far" / "there"
    assert run("pack", reel, archive) == 0
    assert run("unpack", archive, there) == 0
    assert run("render", reel, tmp_path / "one.wav", "--bits", "32f") == 0
    reel.unlink()
    assert run("render", there / "reel.json", tmp_path / "two.wav", "--bits", "32f") == 0
    assert (tmp_path / "one.wav").read_bytes() == (tmp_path / "two.wav").read_bytes()
    document = json.loads((there / "reel.json").read_text())
    assert document["later"] == {"kept": True}
    # What is the same is packed once; what is called the same keeps its name, and its own place.
    assert len([n for n in zipfile.ZipFile(archive).namelist() if n.startswith("media/")]) == 2
    assert [m["path"] for m in document["media"]] == [
        "media/take.wav", "media/take 2.wav", "media/take 3.wav", "gone.wav"
    ]  # fmt: skip
    # Packed again, it holds the same media and the same reel.
    assert run("pack", there / "reel.json", tmp_path / "again.zip") == 0
    with Archive(archive) as first, Archive(tmp_path / "again.zip") as second:
        assert {m.sha256 for m in first.media} == {m.sha256 for m in second.media}


@pytest.mark.parametrize("gone", ["/home/mara/gone.wav", "../sounds/gone.wav", "C:\\gone.wav"])
def test_what_nothing_uses_may_be_missing_wherever_it_lay(reel, tmp_path, gone):
    document = json.loads(reel.read_text())
    document["media"][3]["path"] = gone
    reel.write_text(json.dumps(document))
    assert run("pack", reel, tmp_path / "a.zip") == 0
    assert run("unpack", tmp_path / "a.zip", tmp_path / "out") == 0
    unpacked = json.loads((tmp_path / "out" / "reel.json").read_text())
    assert unpacked["media"][3]["path"] == "gone.wav"
    # Nor does it tell where the others lay.
    with zipfile.ZipFile(tmp_path / "a.zip") as archive:
        packed_paths = [m["path"] for m in json.loads(archive.read("reel.json"))["media"]]
    assert packed_paths == ["take.wav", "take.wav", "take.wav", "gone.wav"]


NAMES = ["..", ".", "...", "a/../..", "x" * 400, "é" * 300 + ".wav", "Take.WAV", "take.wav",
         "take 2.wav", "no ending", ".hidden", "a." + "b" * 300, "\n\t", "C:\\x.wav"]  # fmt: skip


def test_media_of_any_name_are_unpacked_side_by_side(tmp_path):
    media = {}
    for n, name in enumerate(NAMES):
        file = tmp_path / f"{n}.bin"
        file.write_bytes(bytes([n]))
        media[f"m{n}"] = source_of_file(file, name)
    document = {
        "format": "bathyphon-reel", "version": 1, "frame_rate": "25/1", "sample_rate": RATE,
        "media": [{"id": id, "path": "x"} for id in media], "tracks": [],
    }  # fmt: skip
    (tmp_path / "a.zip").write_bytes(b"".join(packed(document, media)))
    assert run("unpack", tmp_path / "a.zip", tmp_path / "out") == 0
    listed = json.loads((tmp_path / "out" / "reel.json").read_text())["media"]
    assert len({m["path"].lower() for m in listed}) == len(NAMES)
    for n, medium in enumerate(listed):
        file = tmp_path / "out" / medium["path"]
        assert file.parent == tmp_path / "out" / "media"
        assert file.read_bytes() == bytes([n])


def test_one_reel_makes_one_archive(reel, tmp_path):
    for name in ("a.zip", "b.zip"):
        assert run("pack", reel, tmp_path / name) == 0
    assert digest(tmp_path / "a.zip") == digest(tmp_path / "b.zip")


@pytest.mark.parametrize("size", [0, 1, 2**20 - 1, 2**20, 3 * 2**20 + 7])
def test_media_of_any_size_come_back_whole(tmp_path, size):
    file = tmp_path / "x.bin"
    file.write_bytes(np.random.default_rng(size).bytes(size))
    media = [{"id": "m", "path": "x.bin"}]
    document = {"format": "bathyphon-reel", "version": 1, "frame_rate": "25/1",
                "sample_rate": RATE, "media": media, "tracks": []}  # fmt: skip
    archive = tmp_path / "x.zip"
    pieces = list(packed(document, {"m": source_of_file(file)}))
    archive.write_bytes(b"".join(pieces))
    # It is sent as it is made: no piece is much longer than what is read at once.
    assert max(map(len, pieces)) <= 2**20 + 200
    with Archive(archive) as read:
        assert b"".join(read.bytes_of(read.media[0])) == file.read_bytes()
        assert read.document == document


def changed(archive, out, change):
    """An archive whose entries somebody has laid hands on."""
    with zipfile.ZipFile(archive) as old:
        entries = {name: old.read(name) for name in old.namelist()}
    entries = change(entries)
    with zipfile.ZipFile(out, "w") as new, warnings.catch_warnings():
        warnings.simplefilter("ignore")
        for name, data in entries.items() if isinstance(entries, dict) else entries:
            new.writestr(name, data)


def first_medium(entries):
    return next(name for name in entries if name.startswith("media/"))


def contents(entries, **change):
    return {
        **entries,
        "archive.json": json.dumps({**json.loads(entries["archive.json"]), **change}),
    }


def with_path(entries, path):
    document = json.loads(entries["reel.json"])
    document["media"][3]["path"] = path
    return {**entries, "reel.json": json.dumps(document)}


def as_link(entries):
    link = zipfile.ZipInfo(first_medium(entries))
    link.external_attr = (stat.S_IFLNK | 0o777) << 16
    return [*((k, v) for k, v in entries.items() if k != link.filename), (link, b"/etc/passwd")]


FAULTS = {
    "outside": (lambda e: {**e, "../evil.sh": b"x"}, "belongs in no archive"),
    "absolute": (lambda e: {**e, "/etc/cron.d/evil": b"x"}, "belongs in no archive"),
    "deep": (lambda e: {**e, "media/../../evil": b"x"}, "belongs in no archive"),
    "windows": (lambda e: {**e, "media/C:\\evil": b"x"}, "belongs in no archive"),
    "else": (lambda e: {**e, "notes.txt": b"x"}, "belongs in no archive"),
    "link": (as_link, "belongs in no archive"),
    "twice": (lambda e: [*e.items(), ("reel.json", e["reel.json"])], "twice"),
    "no reel": (lambda e: {k: v for k, v in e.items() if k != "reel.json"}, "holds no reel.json"),
    "no contents": (lambda e: {k: v for k, v in e.items() if k != "archive.json"}, "holds no arch"),
    "other": (lambda e: contents(e, format="x"), "does not say that this is an archive"),
    "newer": (lambda e: contents(e, version=9), "newer version"),
    "shape": (lambda e: contents(e, media=[3]), "cannot be read"),
    "no media": (lambda e: {k: v for k, v in e.items() if k != first_medium(e)}, "not whole"),
    "shorter": (lambda e: {**e, first_medium(e): e[first_medium(e)][:-1]}, "not whole"),
    "damaged": (lambda e: {**e, first_medium(e): e[first_medium(e)][:-1] + b"?"}, "damaged"),
    "no json": (lambda e: {**e, "reel.json": b"{"}, "not JSON"),
    "bad reel": (lambda e: {**e, "reel.json": b"{}"}, ""),
    "path": (lambda e: with_path(e, "/etc/passwd"), "outside of the archive"),
    "up": (lambda e: with_path(e, "../../secret"), "outside of the archive"),
}  # fmt: skip


@pytest.mark.parametrize("fault", FAULTS)
def test_what_leads_astray_is_refused_and_leaves_nothing(reel, tmp_path, fault, capsys):
    assert run("pack", reel, tmp_path / "good.zip") == 0
    change, says = FAULTS[fault]
    changed(tmp_path / "good.zip", tmp_path / "bad.zip", change)
    before = set(tmp_path.rglob("*"))
    capsys.readouterr()
    assert run("unpack", tmp_path / "bad.zip", tmp_path / "out") == 2
    said = capsys.readouterr().err
    assert says in said
    assert said.count("\n") == 1
    assert set(tmp_path.rglob("*")) == before


@pytest.mark.parametrize("seed", range(20))
def test_random_damage_is_told_never_passed_on(reel, tmp_path, seed):
    chance = np.random.default_rng(seed)
    assert run("pack", reel, tmp_path / "good.zip") == 0
    data = bytearray((tmp_path / "good.zip").read_bytes())
    if seed % 2:
        data = data[: int(chance.integers(0, len(data)))]
    else:
        data[int(chance.integers(0, len(data)))] ^= int(chance.integers(1, 256))
    (tmp_path / "bad.zip").write_bytes(data)
    with Archive(tmp_path / "good.zip") as good:
        whole = {m.sha256 for m in good.media}
    try:
        with Archive(tmp_path / "bad.zip") as read:
            found = {hashlib.sha256(b"".join(read.bytes_of(m))).hexdigest() for m in read.media}
    except Refused:
        return
    # Where the flip hit nothing that is read, the sounds are the sounds.
    assert found == whole


def test_text_that_never_ends_is_not_read_to_its_end(tmp_path):
    with zipfile.ZipFile(tmp_path / "bomb.zip", "w", zipfile.ZIP_DEFLATED) as bomb:
        bomb.writestr("archive.json", b" " * (65 * 2**20))
        bomb.writestr("reel.json", b"{}")
    with pytest.raises(Refused, match="too large"):
        Archive(tmp_path / "bomb.zip")


def test_a_folder_that_holds_something_is_left_alone(reel, tmp_path, capsys):
    assert run("pack", reel, tmp_path / "good.zip") == 0
    (tmp_path / "full").mkdir()
    (tmp_path / "full" / "film.mov").write_text("mine")
    assert run("unpack", tmp_path / "good.zip", tmp_path / "full") == 2
    assert "give a new folder" in capsys.readouterr().err
    (tmp_path / "empty").mkdir()
    assert run("unpack", tmp_path / "good.zip", tmp_path / "empty") == 0


def test_what_is_missing_and_needed_is_told(reel, tmp_path, capsys):
    (reel.parent / "rooms" / "take.wav").unlink()
    assert run("pack", reel, tmp_path / "a.zip") == 2
    assert "“room” should be at" in capsys.readouterr().err
    assert not (tmp_path / "a.zip").exists()
    assert not list(tmp_path.glob("*.part"))


@pytest.mark.parametrize("name", ["", "/a", "..", "a/../b", "C:a", "C:\\a", "\\\\host\\a", "a\\b"])
def test_foreign_paths(name):
    assert is_foreign(name)
    assert not is_foreign("media/take 2.wav")
    assert not is_foreign("..wav")


def test_no_zip_is_told(tmp_path):
    for data in (b"", b"PK", io.BytesIO(b"RIFF" * 30).getvalue()):
        (tmp_path / "x").write_bytes(data)
        with pytest.raises(Refused, match="no archive"):
            Archive(tmp_path / "x")
