"""Markers and cuts as files that other programs read and write: CSV, WebVTT, EDL, OpenTimelineIO.

WebVTT is the W3C's text format; edit decision lists are read in the common CMX 3600 form.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from fractions import Fraction
from typing import Any

from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Reel
from bathyphon.core.timing.clock import Clock

KINDS = ("note", "action", "sound", "music", "problem")
MOST = 20_000
_EVENT = re.compile(
    r"^\s*\d+\s+\S+\s+(\S+)\s+(C|D|W\d+)\s+(?:(\d+)\s+)?"
    r"(\S+[:;]\S+)\s+(\S+[:;]\S+)\s+(\S+[:;]\S+)\s+(\S+[:;]\S+)"
)
_CLIP_NAME = re.compile(r"^\*\s*FROM CLIP NAME:\s*(.+)$", re.IGNORECASE)
_CUE = re.compile(r"(?:(\d+):)?(\d\d):(\d\d)\.(\d{3})\s+-->\s+(?:(\d+):)?(\d\d):(\d\d)\.(\d{3})")


def markers_csv(reel: Reel) -> str:
    """Markers as ``timecode,label,kind``."""
    rows = [
        (reel.clock.timecode_of_sample(m.at, reel.start_timecode), m.label, m.kind)
        for m in sorted(reel.markers, key=lambda m: m.at)
    ]
    return _csv(("timecode", "label", "kind"), rows)


def markers_vtt(reel: Reel) -> str:
    """Markers as WebVTT, each until the next one."""
    marks = sorted(reel.markers, key=lambda m: m.at)
    lines = ["WEBVTT", ""]
    for i, mark in enumerate(marks):
        end = marks[i + 1].at if i + 1 < len(marks) else mark.at + reel.sample_rate
        text = (mark.label or mark.kind).replace("-->", "→").replace("\n", " ")
        lines += [f"{_clock(mark.at, reel)} --> {_clock(max(end, mark.at + 1), reel)}", text, ""]
    return "\n".join(lines)


def cuts_csv(reel: Reel) -> str:
    """Cuts as ``frame,timecode,kind,length,name``."""
    shots = {s.frame: s for s in reel.picture.shots}
    start = reel.clock.frame_of_timecode(reel.start_timecode)
    rows = []
    for frame in reel.picture.cuts:
        shot = shots.get(frame)
        code = reel.clock.timecode_of_frame(start + frame)
        kind, length, name = (shot.kind, shot.length, shot.name) if shot else ("hard", 0, "")
        rows.append((frame, code, kind, length, name))
    return _csv(("frame", "timecode", "kind", "length", "name"), rows)


def read_list(name: str, data: bytes, reel: Reel) -> dict[str, Any]:
    """The edit that brings in a file's markers or cuts.

    Parameters
    ----------
    name : str
        Its ending says what it is: .csv, .vtt, .edl or .otio.
    data : bytes
    reel : Reel

    Returns
    -------
    dict
        A command without ids for its markers: ``add_markers`` or ``set_cuts``.

    Raises
    ------
    Refused
        With the line at fault.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refused(f"“{name}” is not UTF-8 text") from None
    ending = name.lower().rpartition(".")[2]
    if ending == "vtt":
        return _markers(_read_vtt(text, reel))
    if ending == "edl":
        return _cuts(_read_edl(text, reel))
    if ending == "otio":
        return _cuts(_read_otio(text, reel.clock))
    if ending == "csv":
        return _read_csv(text, reel)
    raise Refused(f"“{name}” must end in .csv, .vtt, .edl or .otio")


def _markers(found: list[dict[str, Any]]) -> dict[str, Any]:
    if not found:
        raise Refused("there are no markers in this file")
    return {"kind": "add_markers", "markers": found[:MOST]}


def _cuts(found: Iterable[dict[str, Any]]) -> dict[str, Any]:
    by_frame = {cut["frame"]: cut for cut in found if cut["frame"] > 0}
    if not by_frame:
        raise Refused("there are no cuts in this file")
    return {
        "kind": "set_cuts",
        "by": "file",
        "cuts": [by_frame[f] for f in sorted(by_frame)][:MOST],
    }


def _read_csv(text: str, reel: Reel) -> dict[str, Any]:
    rows = csv.DictReader(io.StringIO(text))
    fields = {(f or "").strip().lower() for f in rows.fieldnames or []}
    if "label" in fields and "timecode" in fields:
        return _markers(
            [
                {
                    "at": _sample(row.get("timecode") or "", reel, line),
                    "label": (row.get("label") or "")[:400],
                    "kind": row.get("kind") if row.get("kind") in KINDS else "note",
                }
                for line, row in enumerate(rows, 2)
            ]
        )
    if "frame" in fields or "timecode" in fields:
        return _cuts(_csv_cut(row, reel, line) for line, row in enumerate(rows, 2))
    raise Refused("the first line must name columns: timecode,label or frame,name", "line 1")


def _csv_cut(row: dict[str, Any], reel: Reel, line: int) -> dict[str, Any]:
    said = (row.get("frame") or "").strip()
    if said and not said.isdigit():
        raise Refused(f"“{said}” is not a frame number", f"line {line}")
    sample = None if said else _sample(row.get("timecode") or "", reel, line)
    frame = int(said) if said else reel.clock.frame_of_sample(sample or 0)
    kind = row.get("kind") if row.get("kind") in ("dissolve", "fade") else "hard"
    length = row.get("length") or "0"
    return {
        "frame": frame,
        "kind": kind,
        "length": int(length) if kind != "hard" and length.isdigit() else 0,
        "name": (row.get("name") or "")[:400],
    }


def _read_vtt(text: str, reel: Reel) -> list[dict[str, Any]]:
    if not text.startswith("WEBVTT"):
        raise Refused("a WebVTT file begins with WEBVTT", "line 1")
    found = []
    for block in re.split(r"\n\s*\n", text.replace("\r\n", "\n")):
        lines = block.strip().split("\n")
        at = next((i for i, line in enumerate(lines) if "-->" in line), None)
        if at is None:
            continue
        cue = _CUE.match(lines[at])
        if not cue:
            raise Refused(f"“{lines[at][:60]}” is not a cue's time")
        hours, minutes, seconds, thousandths = (int(cue[k] or 0) for k in (1, 2, 3, 4))
        time = Fraction(((hours * 60 + minutes) * 60 + seconds) * 1000 + thousandths, 1000)
        label = re.sub(r"<[^>]*>", "", " ".join(lines[at + 1 :])).strip()
        found.append({"at": round(time * reel.sample_rate), "label": label[:400], "kind": "note"})
    return found


def _read_edl(text: str, reel: Reel) -> list[dict[str, Any]]:
    clock = reel.clock
    events: list[dict[str, Any]] = []
    for number, line in enumerate(text.splitlines(), 1):
        named = _CLIP_NAME.match(line.strip())
        if named and events:
            events[-1]["name"] = named[1].strip()[:400]
        event = _EVENT.match(line)
        if not event or not event[1].upper().startswith(("V", "B")):
            continue
        frame = _frame(event[6], clock, number)
        length = int(event[3]) if event[2] == "D" and event[3] else 0
        events.append({"frame": frame, "length": length, "name": ""})
    if not events:
        raise Refused("this is no edit decision list: no event with a picture was found")
    start = clock.frame_of_timecode(reel.start_timecode)
    first = min(e["frame"] for e in events)
    # Lists often begin at an hour that the reel does not state: count from their first event.
    zero = start if start <= first < start + 3600 * clock.nominal else first
    return [
        {
            "frame": e["frame"] - zero + e["length"] // 2,
            "kind": "dissolve" if e["length"] else "hard",
            "length": e["length"],
            "name": e["name"],
        }
        for e in events
    ]


def _read_otio(text: str, clock: Clock) -> list[dict[str, Any]]:
    import opentimelineio as otio

    try:
        timeline = otio.adapters.read_from_string(text, "otio_json")
        track = timeline.video_tracks()[0]
    except (AttributeError, IndexError, otio.exceptions.OTIOError, ValueError, TypeError):
        raise Refused("this is no OpenTimelineIO timeline with a picture track") from None
    found: list[dict[str, Any]] = []
    at = Fraction(0)
    soft = 0
    for item in track:
        if isinstance(item, otio.schema.Transition):
            both = item.in_offset + item.out_offset
            soft = round(Fraction(both.value / both.rate) * clock.frame_rate)
            continue
        frame = round(at * clock.frame_rate)
        kind = "dissolve" if soft else "hard"
        name = str(item.name or "")[:400]
        found.append({"frame": frame, "kind": kind, "length": soft, "name": name})
        soft = 0
        span = item.duration()
        at += Fraction(span.value).limit_denominator(10**6) / Fraction(span.rate).limit_denominator(
            10**6
        )
    return found


def _frame(text: str, clock: Clock, line: int) -> int:
    plain = text.replace(";", ":") if not clock.drop_frame else text.replace(":", ";")
    if clock.drop_frame:
        head, _, tail = plain.rpartition(";")
        plain = f"{head.replace(';', ':')};{tail}"
    try:
        return clock.frame_of_timecode(plain)
    except Refused as error:
        raise Refused(error.message, f"line {line}") from None


def _sample(text: str, reel: Reel, line: int) -> int:
    start = reel.clock.frame_of_timecode(reel.start_timecode)
    frame = _frame(text.strip(), reel.clock, line) - start
    if frame < 0:
        raise Refused(f"“{text}” lies before the reel's start", f"line {line}")
    return reel.clock.sample_of_frame(frame)


def _clock(sample: int, reel: Reel) -> str:
    total = round(Fraction(sample * 1000, reel.sample_rate))
    seconds, thousandths = divmod(total, 1000)
    minutes, seconds = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours:02d}:{minutes:02d}:{seconds:02d}.{thousandths:03d}"


def _csv(head: tuple[str, ...], rows: Iterable[tuple[object, ...]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(head)
    writer.writerows(rows)
    return out.getvalue()
