"""``bathyphon render``."""

from __future__ import annotations

import time
from argparse import Namespace
from collections.abc import Iterable, Iterator
from contextlib import ExitStack
from pathlib import Path
from tempfile import TemporaryFile

import numpy as np

from bathyphon.commands import Result
from bathyphon.core.engine.graph import Graph, build_graph
from bathyphon.core.engine.live import Live
from bathyphon.core.engine.media import Media
from bathyphon.core.engine.render import DEFAULT_BLOCK, Slice, render
from bathyphon.core.engine.restless import in_sequence, out_of_order
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Reel
from bathyphon.formats.reel_file import FolderMedia, load_reel
from bathyphon.formats.wav import SoundWriter, container_of


def run(options: Namespace) -> Result:
    """``render REEL.json OUT.wav``."""
    path, out = Path(options.reel), Path(options.out)
    container_of(out)
    reel = load_reel(path)
    block = _block(options.block)
    if not 1 <= options.threads <= 64:
        raise Refused("--threads must lie between 1 and 64")
    if options.order is not None and options.through != "live":
        raise Refused("--order needs --through live: a plain render has no other order")
    clock = reel.clock
    start = clock.sample_of_timecode(options.start, reel.start_timecode) if options.start else 0
    media = FolderMedia(reel, path.parent)
    graph = build_graph(reel, media, treated=not options.untreated)
    stop = (
        clock.sample_of_timecode(options.stop, reel.start_timecode)
        if options.stop
        else graph.length
    )
    stop = min(stop, graph.length)
    if not 0 <= start < stop:
        last = clock.timecode_of_sample(max(0, graph.length - 1), reel.start_timecode)
        raise Refused(
            f"--from must lie before --to and within the reel, which ends at {last}"
            if graph.length
            else "the reel is empty: it has no clips and no picture"
        )
    began = time.perf_counter()
    rate = reel.sample_rate
    writers = [SoundWriter(out, rate, options.bits, stop - start, start)]
    stem_paths = _stem_paths(reel, options.stems)
    writers += [SoundWriter(p, rate, options.bits, stop - start, start) for p in stem_paths]
    if options.through == "live":
        parts = _live(graph, media, rate, (start, stop), options.order, bool(stem_paths))
    else:
        parts = render(graph, media, start, stop, block, options.threads, stems=bool(stem_paths))
    _write(writers, parts)
    seconds = (stop - start) / rate
    spent = time.perf_counter() - began
    return {
        "out": str(out),
        "samples": stop - start,
        "sample_rate": rate,
        "seconds": seconds,
        "bits": options.bits,
        "treated": not options.untreated,
        "stems": [str(p) for p in stem_paths],
        "through": options.through,
        "order": options.order,
        "times_real_time": seconds / spent,
        "lines": [
            f"{out}: {stop - start} samples at {rate} Hz ({seconds:.3f} s), {options.bits} bit, "
            f"{'untreated' if options.untreated else 'treated'}, {_way(options)}"
            f"{seconds / spent:.0f} times real time",
            *(f"{p}: stem" for p in stem_paths),
        ],
    }


def _way(options: Namespace) -> str:
    """How the sound has come about, where it is not the usual way."""
    if options.through != "live":
        return ""
    order = "in sequence" if options.order is None else f"in the order drawn from {options.order}"
    return f"through the player's path, {order}, "


def _live(
    graph: Graph,
    media: Media,
    rate: int,
    bounds: tuple[int, int],
    order: int | None,
    stems: bool,
) -> Iterator[Slice]:
    """The reel second by second as a player gets it, laid down and then read in order."""
    start, stop = bounds
    live = Live(rate)
    found = (
        in_sequence(live, graph, media, stems)
        if order is None
        else out_of_order(live, graph, media, order, stems)
    )
    shape = (1 + (len(graph.stems) if stems else 0), 2, graph.length)
    with TemporaryFile() as file:
        laid = np.memmap(file, np.float32, "w+", shape=shape)
        for second in found:
            first = second.index * rate
            for row, sound in zip(laid, (second.mix, *second.stems), strict=True):
                row[:, first : first + sound.shape[1]] = sound
        for at in range(start, stop, rate):
            part = np.array(laid[:, :, at : min(at + rate, stop)])
            yield Slice(at, part[0], tuple(part[1:]))


def _block(text: str | None) -> int:
    if text is None:
        return DEFAULT_BLOCK
    if text == "whole":
        return 2**62
    if not text.isdigit() or int(text) < 1:
        raise Refused(f"--block {text}: give a number of samples above 0, or “whole”")
    return int(text)


def _stem_paths(reel: Reel, folder: str | None) -> list[Path]:
    if folder is None:
        return []
    Path(folder).mkdir(parents=True, exist_ok=True)
    solo = any(t.solo for t in reel.tracks)
    names = [
        f"{i + 1:02d} {t.name or t.id}".replace("/", "-").replace("\\", "-")
        for i, t in enumerate(reel.tracks)
        if not t.mute and (t.solo or not solo)
    ]
    return [Path(folder) / f"{name}.wav" for name in names]


def _write(writers: list[SoundWriter], parts: Iterable[Slice]) -> None:
    with ExitStack() as stack:
        for writer in writers:
            stack.enter_context(writer)
        for part in parts:
            writers[0].write(part.mix)
            for writer, stem in zip(writers[1:], part.stems, strict=False):
                writer.write(stem)
