"""A folder of compiled kernels belongs to exactly what they were compiled from."""

import shutil
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
