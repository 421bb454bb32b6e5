"""``bathyphon measure REEL.json``: levels of a reel as it is heard, and what sounds wrong in it."""

from __future__ import annotations

from argparse import Namespace
from dataclasses import asdict
from pathlib import Path

from bathyphon.commands import Result
from bathyphon.commands.measure import figures, level_lines
from bathyphon.commands.stretches import read_stretch
from bathyphon.core.errors import Refused
from bathyphon.core.listen.finding import Finding
from bathyphon.core.listen.judge import judge as judged
from bathyphon.core.listen.judge import survey_of
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.levels import levels_of
from bathyphon.core.reel.parse import read_reel
from bathyphon.formats.reel_file import FolderMedia, load_document


def judge(path: Path, options: Namespace) -> Result:
    """Measure a reel file, and with ``--findings`` say what sounds wrong."""
    if path.suffix.lower() != ".json":
        raise Refused(f"--findings needs a reel.json, and “{path.name}” is none")
    if options.rt or options.against is not None:
        raise Refused("--rt and --against take a sound file: render the reel first")
    document = load_document(path)
    reel = read_reel(document)
    survey = survey_of(document, reel, FolderMedia(reel, path.parent))
    start, stop = read_stretch(options.over, reel.sample_rate) if options.over else (0, None)
    stop = survey.length if stop is None else min(stop, survey.length)
    if start >= stop:
        raise Refused(
            f"--over {options.over}: the reel ends before that"
            if options.over
            else "the reel is empty: it has no clips and no picture"
        )
    levels = levels_of(survey.rows(start, stop))
    result = figures(levels) | {
        "duration_s": (stop - start) / reel.sample_rate,
        "from_sample": start,
        "samples": stop - start,
        "sample_rate": reel.sample_rate,
        "channels": 2,
    }
    lines = level_lines(levels)
    if options.findings:
        found = judged(survey)
        inside = [f for f in found.findings if f.start < stop and f.stop > start]
        result["findings"] = [_plain(f) for f in inside]
        result["dismissed"] = [_plain(f) for f in found.dismissed]
        lines += [line for f in inside for line in _lines(survey, f)] or ["no findings"]
    return result | {"lines": lines}


def _plain(finding: Finding) -> dict[str, object]:
    return {
        "id": finding.id,
        "kind": finding.kind,
        "from": finding.start,
        "to": finding.stop,
        "track": finding.track,
        "of": finding.of,
        "title": finding.title,
        "why": finding.why,
        "sure": round(finding.sure, 3),
        "cure": finding.cure and asdict(finding.cure),
        "instead": finding.instead and asdict(finding.instead),
    }


def _lines(survey: Survey, finding: Finding) -> list[str]:
    where = f"{survey.timecode(finding.start)} to {survey.timecode(finding.stop)}"
    cure = f"    cure: {finding.cure.label}" if finding.cure else "    no cure in one step"
    lines = [
        f"{where}  {finding.title} ({100 * finding.sure:.0f} % sure)",
        f"    {finding.why}",
        cure,
    ]
    if finding.instead:
        lines.append(f"    or:   {finding.instead.label}")
    return lines
