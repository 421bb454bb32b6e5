"""All that is computed from one file, in a process of its own with limits.

The server runs it where it sees nothing else (:mod:`bathyphon.formats.confined`), as
``python -m bathyphon.formats.prepare SOURCE FOLDER RATE NAME``. Every line on standard output is
JSON: ``{"progress": share}`` on the way, and last what was found, or ``{"error": …}``.
"""

from __future__ import annotations

import argparse
import contextlib
import fcntl
import json
import os
import resource
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.formats.conform import ConformedFile, conform
from bathyphon.formats.decode import Empty, first_time, probe
from bathyphon.formats.names import PREPARED, sound_name
from bathyphon.formats.peaks import write_peaks
from bathyphon.kernels import borrow_kernels

Tell = Callable[[dict[str, Any]], None]
MOST_FILES = 256
NOT_COUNTED = {"", ".json", ".part"}
"""Endings of files that say what was made, or lock it."""


def prepare(source: Path, folder: Path, rate: int, tell: Tell, stream: int = 0) -> dict[str, Any]:
    """Conform the sound, draw and measure it, make the picture's proxy and strip, find its cuts.

    Parameters
    ----------
    source : Path
        Any media file.
    folder : Path
        Where the results go.
    rate : int
        Samples a second of the conformed sound.
    tell : callable
        Told ``{"progress": share}`` on the way, and ``{"so_far": info}`` when a part is ready.
    stream : int
        Which of the file's sounds; only the first comes with the picture.
    """
    with _alone(folder):
        return _prepared(source, folder, rate, tell, stream)


@contextlib.contextmanager
def _alone(folder: Path) -> Iterator[None]:
    """Work in a folder while nobody else does: two people may bring in the same film at once.

    Whoever holds the lock and is killed lets go of it.
    """
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def _known(folder: Path, name: str) -> dict[str, Any] | None:
    """What has been found in equal bytes before, if all that was made of them is there."""
    try:
        known: dict[str, Any] = json.loads((folder / f"info-{name}.json").read_text())
    except (OSError, ValueError):
        return None
    made = [f"sound-{name}.f32"] if "sound" in known else []
    made += ["proxy.mp4", "strip.jpg"] if "picture" in known else []
    whole = all((folder / part).is_file() and (folder / part).stat().st_size for part in made)
    return known if known.get("prepared") == PREPARED and whole else None


def _prepared(source: Path, folder: Path, rate: int, tell: Tell, stream: int) -> dict[str, Any]:
    # Equal bytes are prepared once, whoever brings them in.
    name = sound_name(rate, stream)
    known = _known(folder, name)
    if known is not None:
        return known
    found = folder / f"info-{name}.json"
    contents = probe(source, stream)
    picture = contents.picture if stream == 0 else None
    info: dict[str, Any] = {
        "prepared": PREPARED,
        "seconds": contents.seconds,
        "sounds": contents.sounds,
        "timecode": contents.timecode,
        "time_reference": contents.time_reference,
    }
    if picture:
        # A reel can be laid out before the picture is ready.
        info["expected"] = {
            "rate": f"{picture.rate.numerator}/{picture.rate.denominator}",
            "frames": picture.frames,
        }
        tell({"so_far": info, "progress": 0.0})
    share = 0.3 if picture else 1.0
    if contents.sound:
        target = folder / f"sound-{name}.f32"
        try:
            sound = conform(
                source, target, rate, lambda done: tell({"progress": done * share * 0.7}), stream
            )
        except Empty:
            # A film whose sound has no length is a film without sound.
            if not picture:
                raise
            sound = None
        if sound and sound.samples:
            conformed = ConformedFile(target)
            write_peaks(conformed, folder, rate, name)
            info["sound"] = {
                "samples": sound.samples,
                "rate": rate,
                "source_rate": sound.source_rate,
                "channels": len(sound.channels),
                "layout": list(sound.channels),
                "starts": _starts(source, rate, stream),
                "not_finite": sound.not_finite,
            }
            tell({"so_far": info, "progress": share * 0.8})
            # What measures takes seconds to import; the waveform does not wait for it.
            from bathyphon.formats.listen import listen

            info["sound"] |= listen(conformed, folder, rate, name)
            tell({"so_far": info, "progress": share})
    if picture:
        from bathyphon.formats.picture import prepare_picture

        info["picture"] = prepare_picture(
            source, folder, picture, lambda done: tell({"progress": share + done * (1 - share)})
        )
        del info["expected"]
    if "sound" not in info and "picture" not in info:
        raise Refused("it holds neither sound nor picture that can be decoded")
    made = (part for part in folder.iterdir() if part.suffix not in NOT_COUNTED)
    info["bytes"] = sum(part.stat().st_size for part in made if part.is_file())
    partial = found.with_suffix(f".{os.getpid()}.part")
    partial.write_text(json.dumps(info))
    partial.replace(found)
    return info


def conform_only(source: Path, folder: Path, rate: int, tell: Tell, stream: int) -> dict[str, Any]:
    """Conform a sound to another rate than the one that it was prepared at."""
    target = folder / f"sound-{sound_name(rate, stream)}.f32"
    with _alone(folder):
        if target.is_file():
            return {"rate": rate}
        conform(source, target, rate, lambda done: tell({"progress": done}), stream)
    return {"rate": rate}


def _starts(source: Path, rate: int, stream: int) -> int:
    """Samples from the picture's first frame to the sound's first sample; may be negative."""
    sound = first_time(source, "audio", stream)
    picture = first_time(source, "video")
    if sound is None or picture is None:
        return 0
    return round((sound - picture) * rate)


def _confine(memory: int, file_size: int, seconds: int, threads: int) -> None:
    """Bound what this process may use."""
    if memory:
        resource.setrlimit(resource.RLIMIT_DATA, (memory, memory))
    if file_size:
        resource.setrlimit(resource.RLIMIT_FSIZE, (file_size, file_size))
    if seconds:
        resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 5))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_NOFILE, (MOST_FILES, MOST_FILES))
    if threads:
        resource.setrlimit(resource.RLIMIT_NPROC, (threads, threads))


def main() -> int:
    """Prepare one file under limits."""
    parser = argparse.ArgumentParser()
    parser.add_argument("source", type=Path)
    parser.add_argument("folder", type=Path)
    parser.add_argument("rate", type=int)
    parser.add_argument("name")
    parser.add_argument("--memory", type=int, default=0)
    parser.add_argument("--file-size", type=int, default=0)
    parser.add_argument("--seconds", type=int, default=0)
    parser.add_argument("--threads", type=int, default=0)
    parser.add_argument("--stream", type=int, default=0)
    parser.add_argument("--sound-only", action="store_true")
    options = parser.parse_args()
    _confine(options.memory, options.file_size, options.seconds, options.threads)
    borrow_kernels()
    try:
        work = conform_only if options.sound_only else prepare
        result = work(options.source, options.folder, options.rate, _say, options.stream)
    except Refused as error:
        result = {"error": str(error).replace(options.source.name, options.name)}
    except OSError as error:
        result = {"error": f"“{options.name}” cannot be prepared ({error.strerror or error})"}
    except MemoryError:
        result = {"error": f"“{options.name}” needs too much memory to decode"}
    except Exception as error:
        # Whatever a hostile file provokes in the decoder ends here, as one sentence.
        result = {"error": f"“{options.name}” cannot be read ({type(error).__name__})"}
    _say(result)
    return 0


def _say(what: dict[str, Any]) -> None:
    print(json.dumps(what, ensure_ascii=False), flush=True)


if __name__ == "__main__":
    sys.exit(main())
