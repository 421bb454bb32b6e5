"""The demo is as loud as the web wants it, and shows each family of effects.

Source: −16 LUFS ±1 and under −1 dBTP as common practice for films on the web; measured by
libebur128 (pyebur128), by ITU-R BS.1770-4.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pyebur128
import pytest
import soundfile

from bathyphon.cli import main
from bathyphon.core.edits.prints import touched
from bathyphon.formats.reel_file import load_document, load_reel

DEMO = Path(__file__).parents[2] / "demo" / "ninth_sump"
FAMILIES = {
    "level": {"gain", "compress", "limit", "duck", "gate"},
    "tone": {"eq", "tone", "muffle", "telephone"},
    "room": {"reverb", "space"},
    "echo": {"echo"},
    "pitch": {"pitch", "harmony"},
    "swing": {"chorus", "flanger", "phaser", "tremolo", "vibrato", "ring"},
    "dirt": {"drive", "crush"},
    "place": {"pan", "orbit"},
}


def chains(document):
    yield document.get("mix", {}).get("treatment", {})
    for track in document["tracks"]:
        yield track.get("treatment", {})
        yield from track["treatments"]
        yield from (clip.get("treatment", {}) for clip in track["clips"])


@pytest.fixture(scope="module")
def heard(tmp_path_factory):
    folder = tmp_path_factory.mktemp("demo")
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("BATHYPHON_CACHE", str(folder / "cache"))
        out = folder / "demo.wav"
        assert main(["render", str(DEMO / "reel.json"), str(out), "--bits", "32f"]) == 0
    return soundfile.read(out)


def test_it_is_as_loud_as_the_web_wants_it(heard):
    x, rate = heard
    mode = pyebur128.MeasurementMode.MODE_I | pyebur128.MeasurementMode.MODE_TRUE_PEAK
    meter = pyebur128.R128State(2, rate, mode)
    meter.add_frames(np.ascontiguousarray(x).ravel(), len(x))
    assert -17 <= pyebur128.get_loudness_global(meter) <= -15
    peak = max(pyebur128.get_true_peak(meter, channel) for channel in (0, 1))
    assert 20 * np.log10(peak) < -1


def test_no_shot_is_silent_and_none_stands_out(heard):
    x, _ = heard
    cuts = [0, *load_document(DEMO / "reel.json")["picture"]["cuts"]]
    levels = [
        10 * np.log10(np.mean(x[a * 1920 : b * 1920] ** 2))
        for a, b in zip(cuts, cuts[1:], strict=False)
    ]
    assert max(levels) - min(levels) < 6


def test_each_family_of_effects_is_heard_and_speed_is_changed():
    document = load_document(DEMO / "reel.json")
    used = {e["kind"] for chain in chains(document) for e in chain.get("effects", [])}
    for family, kinds in FAMILIES.items():
        assert used & kinds, family
    clips = [clip for track in document["tracks"] for clip in track["clips"]]
    assert sum("speed" in clip for clip in clips) >= 2
    # Recipes made much of it, and can be opened again.
    assert len({made["recipe"] for made in document["made"]}) >= 6
    assert [touched(document, made) for made in document["made"]] == [[]] * len(document["made"])


def test_its_twin_is_the_same_film_with_nothing_done_to_its_sound():
    plain, done = (load_document(DEMO / name) for name in ("untreated.json", "reel.json"))
    load_reel(DEMO / "untreated.json")
    assert plain["picture"] == done["picture"]
    assert not any(chain.get("effects") for chain in chains(plain))
    assert not any(clip.get("bed") for track in plain["tracks"] for clip in track["clips"])
    lines = {clip["id"] for clip in plain["tracks"][0]["clips"]}
    assert lines == {clip["id"] for clip in done["tracks"][0]["clips"]}
