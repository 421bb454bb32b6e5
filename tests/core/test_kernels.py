"""A folder of compiled kernels belongs to exactly what they were compiled from."""

import os
import shutil
import subprocess
import sys
from importlib.util import module_from_spec, spec_from_file_location
from pathlib import Path

import pytest

import bathyphon

PACKAGE = Path(bathyphon.__file__).parent


@pytest.fixture
def copied(tmp_path):
    """A copy of the sources that may be changed, and its kernels."""
    leave = shutil.ignore_patterns("__pycache__")
    for part in ("core", "formats"):
        shutil.copytree(PACKAGE / part, tmp_path / part, ignore=leave)
    shutil.copy(PACKAGE / "kernels.py", tmp_path)
    spec = spec_from_file_location("copied_kernels", tmp_path / "kernels.py")
    kernels = module_from_spec(spec)
    spec.loader.exec_module(kernels)
    return tmp_path, kernels


def changed(file):
    file.write_text(file.read_text() + "\nADDED = 1\n")


@pytest.mark.parametrize(
    "path",
    [
        "core/dsp/delays.py",
        # Constants and plain functions that kernels hold, in files without a kernel.
        "core/timing/shapes.py",
        "core/dsp/latency.py",
        "core/speed/latency.py",
        "core/effects/drive/table.py",
        "core/effects/limit/reach.py",
    ],
)
def test_a_change_of_what_kernels_hold_makes_another_folder(copied, path):
    folder, kernels = copied
    before, sound = kernels.kernel_folder(), kernels.sound_version()
    assert kernels.kernel_folder() == before
    changed(folder / path)
    assert kernels.kernel_folder() != before
    assert kernels.sound_version() != sound


@pytest.mark.parametrize(
    "path", ["core/effects/drive/presets.py", "core/edits/patch.py", "core/reel/checks.py"]
)
def test_a_change_of_anything_else_compiles_nothing_anew(copied, path):
    folder, kernels = copied
    before = kernels.kernel_folder()
    changed(folder / path)
    assert kernels.kernel_folder() == before


def test_a_note_that_was_cut_off_is_made_again(copied):
    _, kernels = copied
    before = kernels.kernel_folder()
    note = Path(kernels.NOTE)
    note.write_text(note.read_text()[:40])
    assert kernels.kernel_folder() == before
    note.write_bytes(b"\xff\xfe\x00")
    assert kernels.kernel_folder() == before


def test_folders_of_other_sources_are_forgotten(copied, monkeypatch):
    _, kernels = copied
    own, other = Path(kernels.kernel_folder()), Path(kernels.FOLDERS) / "kernels-0123"
    own.mkdir()
    other.mkdir()
    monkeypatch.setenv("NUMBA_CACHE_DIR", str(own))
    kernels.forget_other_kernels()
    assert own.is_dir()
    assert not other.exists()


LOADED = """
import sys
from bathyphon.core.dsp.mixing import standing_shares, wet_share
print(standing_shares(30.0, -6.0))
print("numba.typed.typedlist" in sys.modules)
"""
COMPILED = """
from bathyphon.core.compiled import njit
@njit
def twice(mix):
    return [2.0 * wet_share(mix) for _ in range(3)]
print(twice(0.25))
"""


def told(code, folder):
    """The lines that a process prints whose kernels are in a folder."""
    env = {**os.environ, "PYTHONPATH": str(PACKAGE.parent), "NUMBA_CACHE_DIR": str(folder)}
    done = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True, env=env
    )
    return done.stdout.splitlines()


def test_who_only_loads_kernels_does_not_wait_for_the_compiler_to_learn(tmp_path):
    first, learnt = told(LOADED, tmp_path)
    assert learnt == "True"
    assert told(LOADED, tmp_path) == [first, "False"]


def test_what_is_not_on_disk_is_compiled_after_others_were_loaded(tmp_path):
    first, _ = told(LOADED, tmp_path)
    assert told(LOADED + COMPILED, tmp_path) == [first, "False", "[1.0, 1.0, 1.0]"]
