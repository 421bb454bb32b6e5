"""All that is computed from one file, in a process of its own with limits.

Run as ``python -m bathyphon.formats.prepare SOURCE FOLDER RATE NAME``. Every line on standard
output is JSON: ``{"progress": share}`` on the way, and last what was found, or ``{"error": …}``.
"""

from __future__ import annotations

import argparse
import json
import os
import resource
import sys
from pathlib import Path
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.formats.conform import ConformedFile, conform
from bathyphon.formats.decode import probe
from bathyphon.formats.peaks import write_peaks
from bathyphon.formats.picture import prepare_picture


def prepare(source: Path, folder: Path, rate: int, tell: Any) -> dict[str, Any]:
    """Conform the sound, compute its peaks, make the picture's proxy and strip.

    Parameters
    ----------
    source : Path
        Any media file.
    folder : Path
        Where the results go.
    rate : int
        Samples a second of the conformed sound.
    tell : callable
        Told the share that is done.
    """
    # Equal bytes are prepared once, whoever brings them in.
    found = folder / f"info-{rate}.json"
    if found.exists():
        known: dict[str, Any] = json.loads(found.read_text())
        return known
    contents = probe(source)
    folder.mkdir(parents=True, exist_ok=True)
    info: dict[str, Any] = {"seconds": contents.seconds}
    share = 0.3 if contents.picture else 1.0
    if contents.sound:
        sound = conform(
            source, folder / f"sound-{rate}.f32", rate, lambda done: tell(done * share * 0.9)
        )
        if sound.samples:
            write_peaks(ConformedFile(folder / f"sound-{rate}.f32"), folder, rate)
            info["sound"] = {
                "samples": sound.samples,
                "rate": rate,
                "source_rate": sound.source_rate,
                "channels": len(sound.channels),
                "starts": round(float(contents.sound.starts) * rate),
                "not_finite": sound.not_finite,
            }
    if contents.picture:
        info["picture"] = prepare_picture(
            source, folder, contents.picture, lambda done: tell(share + done * (1 - share))
        )
    if "sound" not in info and "picture" not in info:
        raise Refused("it holds neither sound nor picture that can be decoded")
    partial = found.with_suffix(f".{os.getpid()}.part")
    partial.write_text(json.dumps(info))
    partial.replace(found)
    return info


def main() -> int:
    """Prepare one file under limits."""
    parser = argparse.ArgumentParser()
    parser.add_argument("source", type=Path)
    parser.add_argument("folder", type=Path)
    parser.add_argument("rate", type=int)
    parser.add_argument("name")
    parser.add_argument("--memory", type=int, default=0)
    options = parser.parse_args()
    if options.memory:
        resource.setrlimit(resource.RLIMIT_DATA, (options.memory, options.memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    try:
        result = prepare(
            options.source, options.folder, options.rate, lambda done: _say({"progress": done})
        )
    except Refused as error:
        result = {"error": str(error).replace(options.source.name, options.name)}
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
