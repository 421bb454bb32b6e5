"""Reels drawn by chance: whatever an editor could build, and edits that they could make.

Everything follows from a seed. Sounds start late and end early, spans hang over both, values move
and jump, anything may overlap anything.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.edits.patch import Patch, apply_patch, pointer
from bathyphon.core.effects import EFFECTS
from bathyphon.core.effects.kit.table import Parameter
from bathyphon.core.reel.model import Document
from reels import Memory

Rng = np.random.Generator
RATES = (8000, 16000, 22050, 32000)
"""Low ones: the same code, and less of it to wait for."""
SECONDS = 5.0
SHAPES = ("linear", "equal_power", "smooth", "log", "bend")
SHORT = {
    "reverb": {"decay_s": 0.3, "bass_decay": 1.0, "treble_decay": 0.5},
    "echo": {"time_ms": 90.0, "right_time_ms": 70.0, "feedback": 20.0, "right_feedback": 20.0},
    "space": {"response": "barrel", "stretch": 50.0},
}
"""Tails that have ended when something else begins."""
SLOW = ("pitch", "harmony")
EASES = ("hold", "linear", "smooth", "equal_power", "log", "bend")


def media(rng: Rng, rate: int) -> Memory:
    """Noise that stops and starts, a glide, hits out of silence, an impulse response."""
    n = int(rate * SECONDS)
    t = np.arange(n) / rate
    gaps = np.repeat(rng.random(25) < 0.6, -(-n // 25))[:n]
    noise = rng.standard_normal((2, n)) * 0.1 * gaps
    glide = 0.3 * np.sin(2 * np.pi * (110 * t + 60 * t * t)) * np.array([[1.0], [0.6]])
    hits = np.zeros((2, n))
    for at in rng.integers(0, n - 400, 8):
        hits[:, at : at + 300] += rng.standard_normal((2, 300)) * np.exp(-np.arange(300) / 60)
    room = rng.standard_normal((2, rate // 3)) * np.exp(-np.arange(rate // 3) / (rate / 20))
    sounds = {"noise": noise, "glide": glide, "hits": hits, "room": room * 0.1}
    return Memory(**{name: sound.astype(np.float32) for name, sound in sounds.items()})


def reel(rng: Rng, rate: int) -> Document:
    """A reel of some tracks."""
    count = int(rng.integers(1, 4))
    tracks = [_track(rng, rate, f"t{i}", [f"t{j}" for j in range(i)]) for i in range(count)]
    document: Document = {
        "format": "bathyphon-reel",
        "version": 1,
        "name": "Drawn",
        "frame_rate": str(rng.choice(["25/1", "24000/1001", "30000/1001"])),
        "sample_rate": rate,
        "media": [{"id": id, "path": f"{id}.wav"} for id in ("noise", "glide", "hits", "room")],
        "tracks": tracks,
    }
    if rng.random() < 0.4:
        document["mix"] = {"gain_db": _level(rng, rate), "treatment": _chain(rng, rate, [])}
    return document


def _track(rng: Rng, rate: int, id: str, others: list[str]) -> dict[str, Any]:
    clips = [_clip(rng, rate, f"{id}c{i}") for i in range(int(rng.integers(1, 4)))]
    spans = [_span(rng, rate, f"{id}f{i}", others) for i in range(int(rng.integers(0, 4)))]
    track: dict[str, Any] = {"id": id, "name": id, "clips": clips, "treatments": spans}
    if rng.random() < 0.35:
        track["treatment"] = _chain(rng, rate, others)
    if rng.random() < 0.3:
        track["pan"] = _moving(rng, rate, -100.0, 100.0)
    if rng.random() < 0.3:
        track["gain_db"] = _level(rng, rate)
    if rng.random() < 0.1:
        track["mute"] = True
    return track


def _clip(rng: Rng, rate: int, id: str) -> dict[str, Any]:
    start, length = _stretch(rng, rate, 0.0)
    clip: dict[str, Any] = {
        "id": id,
        "media": str(rng.choice(["noise", "glide", "hits"])),
        "start": start,
        "length": length,
        "source_start": int(rng.choice([0, 0, rng.integers(-rate, 4 * rate)])),
    }
    if rng.random() < 0.4:
        clip["fade_in"] = _ramp(rng, length // 2)
        clip["fade_out"] = _ramp(rng, length // 2)
    if rng.random() < 0.3:
        clip["gain_db"] = _level(rng, rate)
    if rng.random() < 0.15:
        clip["speed"] = {
            "percent": _moving(rng, rate, 60.0, 180.0, share=0.3),
            "pitch": str(rng.choice(["hold", "follow"])),
            "semitones": float(rng.choice([0, 0, 3])),
        }
    if rng.random() < 0.35:
        clip["treatment"] = _chain(rng, rate, [])
    return clip


def _stretch(rng: Rng, rate: int, earliest: float) -> tuple[int, int]:
    """Start and length, sometimes on whole seconds, where blocks meet."""
    start, length = rng.uniform(earliest, 0.7 * SECONDS), rng.uniform(0.02, SECONDS)
    if rng.random() < 0.2:
        start, length = round(start), max(1, round(length))
    return int(start * rate), max(1, int(length * rate))


def _span(rng: Rng, rate: int, id: str, others: list[str]) -> dict[str, Any]:
    start, length = _stretch(rng, rate, -0.5)
    return span(rng, rate, id, start, length, _chain(rng, rate, others))


def span(rng: Rng, rate: int, id: str, start: int, length: int, chain: Any) -> dict[str, Any]:
    """A treatment span with some chain, and perhaps with ramps."""
    span = {"id": id, "start": start, "length": length, **chain}
    if rng.random() < 0.6:
        span["ramp_in"] = _ramp(rng, min(length // 2, rate))
        span["ramp_out"] = _ramp(rng, min(length // 2, rate))
    return span


def _ramp(rng: Rng, most: int) -> dict[str, Any]:
    ramp: dict[str, Any] = {"length": int(rng.choice([0, rng.integers(0, most + 1)]))}
    ramp["shape"] = str(rng.choice(SHAPES))
    if ramp["shape"] == "bend":
        ramp["bend"] = float(rng.uniform(-1, 1))
    return ramp


def _chain(rng: Rng, rate: int, others: list[str]) -> dict[str, Any]:
    effects = [_effect(rng, rate, f"e{i}", others) for i in range(int(rng.integers(1, 4)))]
    chain: dict[str, Any] = {"effects": effects}
    if rng.random() < 0.25:
        chain["strength"] = _moving(rng, rate, 0.0, 100.0)
    rings = any(EFFECTS[e["kind"]].engages == "send" for e in effects)
    if rings and rng.random() < 0.3:
        for e in effects:
            e["params"] |= SHORT.get(e["kind"], {})
    elif rings or rng.random() < 0.2:
        # Not minutes of tail.
        chain["ring_out"] = "none" if rng.random() < 0.3 else int(rng.integers(0, 2 * rate))
    return chain


def _effect(rng: Rng, rate: int, id: str, others: list[str]) -> dict[str, Any]:
    kind = str(rng.choice(list(EFFECTS)))
    if kind in SLOW and rng.random() < 0.7:
        kind = str(rng.choice(list(EFFECTS)))
    return effect(rng, rate, kind, id, others)


def effect(rng: Rng, rate: int, kind: str, id: str, others: list[str]) -> dict[str, Any]:
    """An effect of one kind."""
    table = EFFECTS[kind]
    params: dict[str, Any] = {
        p.id: _value(rng, rate, p) for p in table.parameters if rng.random() < 0.4
    }
    if table.group:
        rows = table.group.parameters
        params[table.group.id] = [
            {p.id: _value(rng, rate, p) for p in rows if rng.random() < 0.5}
            for _ in range(int(rng.integers(1, 3)))
        ]
    if table.reference and table.reference.to == "media" and rng.random() < 0.3:
        params[table.reference.id] = "room"
    if table.reference and table.reference.to == "track" and others:
        params[table.reference.id] = str(rng.choice(others))
    return {"id": id, "kind": kind, "params": params}


def _value(rng: Rng, rate: int, p: Parameter) -> Any:
    if p.choices:
        return p.choices[int(rng.integers(len(p.choices)))]
    if p.whole:
        return int(rng.integers(round(p.low), round(p.high) + 1))
    if p.movable and rng.random() < 0.4:
        return _keyframes(rng, rate, p.low, p.high)
    return float(
        rng.choice([p.low, p.high, rng.uniform(p.low, p.high), rng.uniform(p.low, p.high)])
    )


def _level(rng: Rng, rate: int) -> Any:
    return _moving(rng, rate, -30.0, 6.0)


def _moving(rng: Rng, rate: int, low: float, high: float, share: float = 0.6) -> Any:
    if rng.random() < share:
        return _keyframes(rng, rate, low, high)
    return float(rng.uniform(low, high))


def _keyframes(rng: Rng, rate: int, low: float, high: float) -> dict[str, Any]:
    last = int(SECONDS * rate)
    at = np.unique(rng.integers(-rate, last, int(rng.integers(2, 7))))
    if rng.random() < 0.3:
        # Far off: nothing of it is heard here.
        at = np.append(at, 100 * last)
    points = []
    for place in at.tolist():
        point: dict[str, Any] = {"at": place, "value": float(rng.uniform(low, high))}
        point["ease"] = str(rng.choice(EASES))
        if point["ease"] == "bend":
            point["bend"] = float(rng.uniform(-1, 1))
        points.append(point)
    return {"keyframes": points}


def edit(rng: Rng, document: Document) -> Patch:
    """One change of a reel: a patch, so that what it leaves alone stays the same object."""
    rate = document["sample_rate"]
    t = int(rng.integers(len(document["tracks"])))
    track = document["tracks"][t]
    others = [f"t{j}" for j in range(int(track["id"][1:]))]
    here = ("tracks", t)
    ways: list[Patch] = [[_set(here, track, "mute", not track.get("mute", False))]]
    if "pan" in track:
        ways.append([_set(here, track, "pan", _moving(rng, rate, -100, 100))])
    for c, clip in enumerate(track["clips"]):
        start, length = _stretch(rng, rate, 0.0)
        ways.append([_set((*here, "clips", c), clip, "start", start)])
        if "fade_in" not in clip:
            ways.append([_set((*here, "clips", c), clip, "length", length)])
        ways.append([_set((*here, "clips", c), clip, "gain_db", _level(rng, rate))])
    fresh = _span(rng, rate, f"{track['id']}f{rng.integers(10**9)}", others)
    end = len(track["treatments"])
    ways.append([{"op": "add", "path": pointer(*here, "treatments", end), "value": fresh}])
    for f, span in enumerate(track["treatments"]):
        place = (*here, "treatments", f)
        ways.append([{"op": "remove", "path": pointer(*place)}])
        ways.append([_set(place, span, "start", _stretch(rng, rate, -0.5)[0])])
        ways += _on_chain(rng, rate, place, span, others) * 3
    if "treatment" in track:
        ways += _on_chain(rng, rate, (*here, "treatment"), track["treatment"], others) * 2
    if "mix" in document:
        ways += _on_chain(rng, rate, ("mix", "treatment"), document["mix"]["treatment"], []) * 2
    return ways[int(rng.integers(len(ways)))]


def _on_chain(
    rng: Rng, rate: int, place: tuple[str | int, ...], chain: dict[str, Any], others: list[str]
) -> list[Patch]:
    ways = []
    for e, part in enumerate(chain["effects"]):
        table = EFFECTS[part["kind"]]
        if not table.parameters:
            continue
        p = table.parameters[int(rng.integers(len(table.parameters)))]
        params = {**part["params"], p.id: _value(rng, rate, p)}
        ways.append([_set((*place, "effects", e), part, "params", params)])
    fresh = _effect(rng, rate, f"e{rng.integers(10**9)}", others)
    at = pointer(*place, "effects", int(rng.integers(len(chain["effects"]) + 1)))
    ways.append([{"op": "add", "path": at, "value": fresh}])
    return ways


def _set(place: tuple[str | int, ...], part: dict[str, Any], key: str, value: Any) -> Any:
    op = "replace" if key in part else "add"
    return {"op": op, "path": pointer(*place, key), "value": value}


def edited(document: Document, patch: Patch) -> Document:
    """The document after a change."""
    found: Document = apply_patch(document, patch)[0]
    return found


def difference_db(a: NDArray[np.float32], b: NDArray[np.float32]) -> float:
    """Largest difference of two sounds."""
    n = min(a.shape[1], b.shape[1])
    most = float(np.abs(a[:, :n].astype(float) - b[:, :n]).max(initial=0.0))
    return 20 * np.log10(most + 1e-30)
