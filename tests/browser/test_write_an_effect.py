"""The worked example of ``docs/write-an-effect.md``, copied into place, is an effect like any."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
import soundfile
from media import RATE
from test_effects import find, params_of

ROOT = Path(__file__).parents[2]
EXAMPLE = ROOT / "docs" / "examples" / "widen"
PLACE = ROOT / "src" / "bathyphon" / "core" / "effects" / "widen"

# The folder lies among the sources meanwhile, where nobody else may be looking.
pytestmark = pytest.mark.alone


@pytest.fixture
def in_place(server):
    """Copied into place, with a server that has been started since."""
    shutil.rmtree(PLACE, ignore_errors=True)
    try:
        shutil.copytree(EXAMPLE, PLACE, ignore=shutil.ignore_patterns("__pycache__"))
        server.kill()
        server.start()
        yield
    finally:
        shutil.rmtree(PLACE, ignore_errors=True)
        server.kill()
        server.start()


def run(*words):
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT / 'tests'}"}
    done = subprocess.run(
        [sys.executable, "-m", *words], env=env, cwd=ROOT, capture_output=True, text=True,
        check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stdout[-2000:] + done.stderr[-2000:]
    return done.stdout


def test_it_is_listed_conforms_renders_and_is_used_on_the_screen(in_place, bench, made, tmp_path):
    tables = json.loads(run("bathyphon.cli", "effects", "--json"))["effects"]
    widen = next(t for t in tables if t["id"] == "widen")
    assert widen["hatch"]["kind"] == "lines"
    assert tables.index(widen) == 1 + next(i for i, t in enumerate(tables) if t["id"] == "pan")

    run("pytest", "-q", "-p", "no:cacheprovider", "tests/core/effects", "-k", "widen or hatch")

    # Mono in: both sides differ, and their sum is what came in.
    x = np.random.default_rng(1).standard_normal(RATE) * 0.1
    soundfile.write(tmp_path / "in.wav", np.stack([x, x]).T, RATE, subtype="FLOAT")
    where = (str(tmp_path / "in.wav"), str(tmp_path / "out.wav"))
    run("bathyphon.cli", "treat", *where, "--effect", "widen", "width=80", "--bits", "32f")
    left, right = soundfile.read(tmp_path / "out.wav", always_2d=True)[0][:RATE].T
    assert np.std(left - right) > 0.05
    assert np.abs(0.5 * (left + right) - x).max() < 1e-6

    page = bench.page
    page.reload()
    page.wait_for_selector(".track")
    page.get_by_role("button", name="Treat all of Music").click()
    find(page, "Widen")
    card = page.get_by_role("region", name="Widen")
    picture = card.locator(".effect-drawing svg").first
    picture.wait_for()
    seen = picture.inner_html()
    field = card.get_by_label("Width, value", exact=True)
    field.fill("90")
    field.press("Enter")
    bench.saved()
    assert params_of(made) == {"width": 90}
    page.wait_for_function(
        "([node, before]) => node.innerHTML !== before", arg=[picture.element_handle(), seen]
    )
    places, sound = bench.played(100)
    expected = made_as_rendered(made, tmp_path)
    assert places.size > RATE // 2
    assert np.array_equal(sound, expected[:, places])
    made.edit(kind="apply_preset", owner="track:music", id=effect_id(made), preset="Opens up")
    made.edit(kind="remove_effect", owner="track:music", id=effect_id(made))


def effect_id(made):
    track = next(t for t in made.document["tracks"] if t["id"] == "music")
    return track["treatment"]["effects"][0]["id"]


def made_as_rendered(made, folder):
    """In a process of its own: this one has read the list of effects before."""
    document = made.document
    for medium in document["media"]:
        medium["path"] = str(made.files[medium["id"]])
    (folder / "reel.json").write_text(json.dumps(document))
    out = folder / "rendered.wav"
    run("bathyphon.cli", "render", str(folder / "reel.json"), str(out), "--bits", "32f")
    return soundfile.read(out, dtype="float32", always_2d=True)[0].T
