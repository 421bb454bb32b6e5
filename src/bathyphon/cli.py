"""The command line: ``render``, ``treat``, ``stretch``, ``measure``, ``sound``, ``pack``,
``unpack``, ``effects``."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Sequence
from typing import Any, NoReturn

from bathyphon import __version__
from bathyphon.core.errors import Refused
from bathyphon.memory import keep_memory


class _Parser(argparse.ArgumentParser):
    """A parser whose every complaint is one line."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}\n")


def _seed(text: str) -> int:
    if not text.isdigit():
        raise argparse.ArgumentTypeError(f"“{text}” is no seed; give a whole number from 0 on")
    return int(text)


def build_parser() -> argparse.ArgumentParser:
    """The arguments of every command."""
    parser = _Parser(prog="bathyphon", description="Sound that matches the cuts.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)

    render = commands.add_parser("render", help="render a reel.json to a sound file")
    render.add_argument("reel", metavar="REEL.json")
    render.add_argument("out", metavar="OUT.wav")
    render.add_argument("--from", dest="start", metavar="TC", help="first timecode")
    render.add_argument("--to", dest="stop", metavar="TC", help="timecode after the last frame")
    render.add_argument("--stems", metavar="DIR", help="write each track there as well")
    render.add_argument("--untreated", action="store_true", help="leave all treatments out")
    render.add_argument("--bits", choices=("16", "24", "32f"), default="24")
    render.add_argument("--block", default=None, metavar="N", help="samples a block, or “whole”")
    render.add_argument("--threads", type=int, default=1, metavar="N")
    render.add_argument(
        "--through",
        choices=("render", "live"),
        default="render",
        help="live: by the player's own path, whose bits are the same",
    )
    render.add_argument(
        "--order",
        type=_seed,
        metavar="SEED",
        help="ask the live path in an order drawn from a seed, with seeks and second thoughts",
    )
    _json(render)

    treat = commands.add_parser("treat", help="put effects on a sound file")
    treat.add_argument("source", metavar="IN")
    treat.add_argument("out", metavar="OUT")
    treat.add_argument(
        "--effect",
        action="append",
        nargs="+",
        required=True,
        metavar=("KIND", "PARAM=VALUE"),
        help="an effect and its parameters; may be given again",
    )
    treat.add_argument("--tail", default="auto", metavar="auto|none|SECONDS")
    treat.add_argument("--bits", choices=("16", "24", "32f"), default=None)
    _json(treat)

    stretch = commands.add_parser("stretch", help="change a sound file's speed or pitch")
    stretch.add_argument("source", metavar="IN")
    stretch.add_argument("out", metavar="OUT")
    length = stretch.add_mutually_exclusive_group(required=True)
    length.add_argument("--speed", type=float, metavar="PERCENT", help="10 to 400")
    length.add_argument("--to", type=float, metavar="SECONDS", help="length that it shall have")
    stretch.add_argument("--pitch", choices=("hold", "follow"), default="hold")
    stretch.add_argument("--semitones", type=float, default=0.0, metavar="N", help="−24 to 24")
    stretch.add_argument("--cents", type=float, default=0.0, metavar="N")
    stretch.add_argument(
        "--formants", choices=("hold", "follow"), help="held with a voice, else following the pitch"
    )
    stretch.add_argument("--material", choices=("voice", "music"), default="music")
    stretch.add_argument("--bits", choices=("16", "24", "32f"), default=None)
    _json(stretch)

    measure = commands.add_parser("measure", help="loudness, peaks, spectrum, decay, findings")
    measure.add_argument("source", metavar="IN", help="a sound file, or a reel.json")
    measure.add_argument("--over", metavar="FROM-TO", help="of that stretch alone")
    measure.add_argument("--against", metavar="OTHER", help="how it differs from another file")
    measure.add_argument("--findings", action="store_true", help="what sounds wrong in a reel.json")
    measure.add_argument("--rt", action="store_true", help="decay times per octave band")
    _json(measure)

    sound = commands.add_parser("sound", help="compute one of the sounds that ship, or list them")
    sound.add_argument("name", nargs="?", metavar="SOUND", help="its name, as it is listed")
    sound.add_argument("out", nargs="?", metavar="OUT")
    sound.add_argument("settings", nargs="*", metavar="PARAM=VALUE")
    sound.add_argument("--seconds", type=float, default=60.0, metavar="N", help="of a bed")
    sound.add_argument("--seed", type=_seed, default=1, metavar="N", help="another take")
    sound.add_argument("--bits", choices=("16", "24", "32f"), default=None)
    _json(sound)

    pack = commands.add_parser("pack", help="put a reel and its media into one file")
    pack.add_argument("reel", metavar="REEL.json")
    pack.add_argument("out", metavar="OUT")
    _json(pack)

    unpack = commands.add_parser("unpack", help="take a packed reel out, its media verified")
    unpack.add_argument("archive", metavar="ARCHIVE")
    unpack.add_argument("folder", metavar="FOLDER")
    _json(unpack)

    effects = commands.add_parser("effects", help="every effect's table")
    _json(effects)
    return parser


def _json(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--json", action="store_true", help="print the result as JSON")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; returns the exit status."""
    options = build_parser().parse_args(arguments)
    keep_memory()
    # Signal processing takes a moment to import: not before the arguments are known to be good.
    from bathyphon import commands

    try:
        result = commands.run(options)
    except Refused as error:
        print(f"bathyphon: {error}", file=sys.stderr)
        return 2
    except KeyboardInterrupt:
        return 130
    except OSError as error:
        print(f"bathyphon: {error.strerror or error}: {error.filename or ''}", file=sys.stderr)
        return 1
    try:
        _print(result, options.json)
        sys.stdout.flush()
    except BrokenPipeError:
        # Whoever listens has heard enough, as “head” has; Python would complain of it once more.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _print(result: dict[str, Any], as_json: bool) -> None:
    if as_json:
        print(json.dumps(result, ensure_ascii=False))
        return
    for line in result.get("lines", []):
        print(line)


if __name__ == "__main__":
    sys.exit(main())
