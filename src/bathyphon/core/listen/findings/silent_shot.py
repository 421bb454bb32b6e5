"""Shots in which nothing is heard, among others in which something is."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.listen.finding import Check, Command, Cure, Finding, Threshold
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.tally import LEFT, RIGHT
from bathyphon.core.reel.model import Clip, Track

SILENT = Threshold(
    "silent_dbfs", "Silent shot", "dBFS", -66.0, -96.0, -40.0,
    "A shot that never gets louder than this is pointed out.",
    "common practice: a quiet room’s tone lies at about −60 dBFS",
)  # fmt: skip
SHORTEST_SECONDS = 0.6


def find(survey: Survey) -> Iterator[Finding]:
    """Shots without sound between the first and the last that have some."""
    limit = survey.threshold(SILENT.id, SILENT.value)
    picture = survey.reel.picture
    if limit is None or not picture.clips:
        return
    clock = survey.reel.clock
    end = max(c.start + c.length for c in picture.clips)
    edges = [0, *(clock.sample_of_frame(f) for f in picture.cuts), end]
    shots = [(a, b) for a, b in zip(edges, edges[1:], strict=False) if b > a]
    loud = [_loudest(survey, a, b) for a, b in shots]
    heard = [k for k, level in enumerate(loud) if level > limit]
    if not heard:
        return
    for k, (a, b) in enumerate(shots):
        if loud[k] > limit or b - a < SHORTEST_SECONDS * survey.rate:
            continue
        if not heard[0] < k < heard[-1]:
            # Before the first and after the last sound a film may be silent.
            continue
        yield Finding(
            "silent_shot", a, b, f"Nothing is heard in the shot at {survey.timecode(a)}",
            f"It stays below {limit:.0f} dBFS for {(b - a) / survey.rate:.1f} s between shots that "
            "have sound; even a quiet place has a tone of its own.",
            0.7, "reel", cure=_drawn_out(survey, a, b), part=str(clock.frame_of_sample(a)),
        )  # fmt: skip


def _loudest(survey: Survey, start: int, stop: int) -> float:
    inside = survey.rows(start, stop)
    # The edges' tenths may hold a little of the neighbours.
    inside = inside[1:-1] if len(inside) > 3 else inside
    power = inside[:, [LEFT, RIGHT]].mean(axis=1)
    return float(10 * np.log10(power.max() + 1e-12))


def _drawn_out(survey: Survey, start: int, stop: int) -> Cure | None:
    """The clip before it goes on, or the one behind it begins earlier, where their sound allows."""
    best: tuple[int, Command, str] | None = None
    for track, clip in survey.clips():
        if not clip.speed.plain or not _free(track, clip, start, stop):
            continue
        more = survey.media.length(clip.media) - (clip.source_start + clip.length)
        if clip.end <= start and clip.end + more >= stop:
            far = start - clip.end
            command: Command = {
                "kind": "trim_clip",
                "id": clip.id,
                "edge": "end",
                "to": {"sample": stop},
            }
        elif clip.start >= stop and clip.source_start >= clip.start - start:
            far = clip.start - stop
            command = {"kind": "trim_clip", "id": clip.id, "edge": "start", "to": {"sample": start}}
        else:
            continue
        if best is None or far < best[0]:
            best = far, command, survey.name_of_clip(clip)
    return best and Cure(f"Extend “{best[2]}” over it", (best[1],))


def _free(track: Track, clip: Clip, start: int, stop: int) -> bool:
    low, high = min(start, clip.end), max(stop, clip.start)
    return not any(c is not clip and c.start < high and c.end > low for c in track.clips)


CHECK = Check(
    "silent_shot", "Shots without sound",
    "A hole in the sound is taken for a fault. A bed or a room’s tone under the shot closes it.",
    find, (SILENT,), 70,
)  # fmt: skip
