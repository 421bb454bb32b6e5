"""What may be put wrong in a film, by how much: each makes one kind of finding."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from scipy.ndimage import uniform_filter1d

from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.tally import tally
from soundtracks import FRAME, RATE, Film

Spoil = Callable[[Film, float, np.random.Generator], None]
"""Spoils a film by a strength from 0, which is just enough, to 1."""


def _span(film: Film, track: str, id: str, start: float, seconds: float, *effects: Any) -> None:
    chain = [{"id": f"{id}{k}", "kind": kind, "params": p} for k, (kind, p) in enumerate(effects)]
    film.track(track)["treatments"].append(
        {"id": id, "name": id.title(), "start": round(start * RATE),
         "length": round(seconds * RATE), "ramp_in": {"length": 2 * FRAME},
         "ramp_out": {"length": 2 * FRAME}, "effects": chain}
    )  # fmt: skip


def _levels(film: Film) -> Any:
    survey = film.survey()
    return levels_of(survey.rows(0, survey.length))


def mix_too_loud(film: Film, strength: float, rng: np.random.Generator) -> None:
    """Peaks 0.5 to 9 dB above full scale."""
    film.document["mix"]["gain_db"] = 0.5 + 8.5 * strength - _levels(film).true_peak


def recorded_too_loud(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A voice whose tops were cut off, turned down afterwards."""
    x = film.sounds["voice"]
    x *= (1.5 + 4 * strength) / np.abs(x).max()
    np.clip(x, -0.9, 0.9, out=x)
    film.track("voice")["gain_db"] = -12.0 - 6 * strength


def raised_too_far(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A clip whose own level lifts it 0.5 to 10 dB above full scale, in a mix that is not."""
    x = film.sounds["music"]
    before = levels_of(tally(x, RATE)).true_peak
    x *= 0.5 / np.abs(x).max()
    after = levels_of(tally(x, RATE)).true_peak
    assert before is not None
    assert after is not None
    raised = 0.5 + 9.5 * strength - after
    film.track("music")["clips"][0]["gain_db"] = raised
    level = film.track("music").get("gain_db", 0.0)
    film.track("music")["gain_db"] = level + before - after - raised


def louder_by_the_way(film: Film, strength: float, rng: np.random.Generator) -> None:
    """An effect that makes its span 4 to 9 dB louder."""
    makeup = 4.5 + 6 * strength
    compress = ("compress", {"threshold_db": -20, "makeup_db": makeup})
    if rng.random() < 0.5:
        _span(film, "bed", "dense", 1, 4, compress)
    else:
        gain = 8 + 8 * strength
        band = {"type": "peak", "freq_hz": 900, "gain_db": gain, "q": 0.3}
        _span(film, "bed", "bright", 1, 4, ("eq", {"bands": [band]}))


def quieter_by_the_way(film: Film, strength: float, rng: np.random.Generator) -> None:
    """An effect that takes 4 to 12 dB of loudness away."""
    bands = [{"type": "high_shelf", "freq_hz": 200, "gain_db": -6 - 8 * strength}]
    _span(film, "bed", "thin", 1, 4, ("eq", {"bands": bands}))


def covered(film: Film, strength: float, rng: np.random.Generator) -> None:
    """Music that comes close to the speech."""
    survey = film.survey()
    voice, music = (
        levels_of(survey.rows(0, survey.length, survey.track_node(t))).loudness
        for t in survey.reel.tracks[:2]
    )
    assert voice is not None
    assert music is not None
    film.track("music")["gain_db"] += voice - music - 1.5 + 6 * strength


def cut_tail(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A reverb that stops with its span."""
    long = {"decay_s": 2.0 + 3 * strength, "mix": 40 + 20 * strength, "dry_db": -3.0}
    _span(film, "voice", "hall", 6, 3.5, ("reverb", long))
    enough = 8 * RATE
    film.track("voice")["treatments"][-1]["ring_out"] = "none" if strength >= 0 else enough


def clicking(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A line cut in the middle of a vowel."""
    clip = film.track("voice")["clips"][0]
    step = np.abs(film.sounds["voice"][0, RATE : clip["length"] - RATE // 2])
    treble = uniform_filter1d(np.abs(np.diff(step, 2, append=[0, 0])), RATE // 8, mode="constant")
    vowel = step / (np.sqrt(treble) + 1e-3 * np.sqrt(treble.max()))
    best = np.argsort(vowel)[-round(100 * (1.2 - max(0.0, strength))) :]
    end = RATE + int(rng.choice(best))
    film.track("voice")["clips"][0]["length"] = end
    if strength < 0:
        film.track("voice")["clips"][0]["fade_out"] = {"length": RATE // 200, "shape": "smooth"}
    # Its other half is taken away.
    del film.track("voice")["clips"][1]


def slipped_late(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A line that comes 130 to 400 ms after its picture."""
    clip = film.track("voice")["clips"][1]
    clip["tie"] = clip["start"] - clip["source_start"] - round((0.13 + 0.27 * strength) * RATE)


def slipped_early(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A line that comes 50 to 300 ms before its picture."""
    clip = film.track("voice")["clips"][1]
    clip["tie"] = clip["start"] - clip["source_start"] + round((0.05 + 0.25 * strength) * RATE)


def hole(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A shot in which nothing plays."""
    first = round(rng.uniform(4, 6) * 25)
    last = first + round((1.0 + 2 * strength) * 25)
    film.document["picture"]["cuts"] = [first, last]
    for track in film.document["tracks"]:
        medium, n = track["clips"][0]["media"], film.sounds["picture"].shape[1]
        a, b = first * FRAME, last * FRAME
        soft = {"length": FRAME // 2, "shape": "smooth"}
        track["treatments"] = []
        track["clips"] = [
            {"id": f"{medium}-a", "media": medium, "start": 0, "length": a, "fade_out": soft},
            {"id": f"{medium}-b", "media": medium, "start": b, "length": n - b,
             "source_start": b, "fade_in": soft},
        ]  # fmt: skip


def humming(film: Film, strength: float, rng: np.random.Generator) -> None:
    """Mains in the voice's cable."""
    mains = float(rng.choice([50.0, 60.0]))
    t = np.arange(film.sounds["voice"].shape[1]) / RATE
    level = 10 ** ((-52 + 18 * strength) / 20)
    for k in range(1, 6):
        film.sounds["voice"] += level / k**0.5 * np.sin(2 * np.pi * mains * k * t + k)


def off_zero(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A converter that does not swing about zero."""
    x = film.sounds["voice"]
    soft = np.minimum(1, np.minimum(np.arange(x.shape[1]), np.arange(x.shape[1])[::-1]) / RATE)
    x += (0.007 + 0.04 * strength) * soft


def turned_over(film: Film, strength: float, rng: np.random.Generator) -> None:
    """One side the other one turned over."""
    x = film.sounds["music"]
    x[1] = -x[0] * (0.75 + 0.25 * strength)


def too_wide(film: Film, strength: float, rng: np.random.Generator) -> None:
    """Hardly anything in the middle."""
    x = film.sounds["bed"]
    middle, side = 0.5 * (x[0] + x[1]), 0.5 * (x[0] - x[1])
    side *= (3.0 + 3 * strength) * np.std(middle) / np.std(side)
    x[:] = np.stack([middle + side, middle - side])


def rushed(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A line at 135 to 200 %."""
    edit = film.after({"kind": "set_speed", "ids": ["v2"], "percent": round(135 + 65 * strength)})
    film.document = edit.document


def dragging(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A line at 75 to 50 %."""
    edit = film.after({"kind": "set_speed", "ids": ["v1"], "percent": round(75 - 25 * strength)})
    film.document = edit.document


def there_and_back(film: Film, strength: float, rng: np.random.Generator) -> None:
    """One treatment up, the other down by as much."""
    db = 4.0 + 8 * strength
    _span(film, "music", "up", 2, 5, ("gain", {"level_db": db}))
    _span(film, "music", "down", 2 + strength, 5, ("gain", {"level_db": -db}))


def left_over(film: Film, strength: float, rng: np.random.Generator) -> None:
    """A treatment that changes nothing, or has nothing to treat."""
    if strength < 0 or rng.random() < 0.5:
        _span(film, "music", "rest", 2, 3, ("gain", {"level_db": min(0.0, strength)}))
    else:
        film.document["tracks"].append({"id": "empty", "name": "Empty", "clips": []})
        film.document["tracks"][-1]["treatments"] = []
        _span(film, "empty", "rest", 2, 3, ("echo", {}))


def off_target(film: Film, strength: float, rng: np.random.Generator) -> None:
    """0.7 to 6 LU from the loudness that is asked for."""
    wanted = _levels(film).loudness + (0.7 + 5 * strength) * float(rng.choice([-1, 1]))
    film.document["listening"] = {"thresholds": {"target_lufs": round(wanted, 2)}}


def peaks_too_high(film: Film, strength: float, rng: np.random.Generator) -> None:
    """Peaks between what is asked for and full scale."""
    film.document["mix"]["gain_db"] = -0.95 + 0.9 * strength - _levels(film).true_peak


DEFECTS: dict[Spoil, str] = {
    mix_too_loud: "clipping", recorded_too_loud: "clipping", raised_too_far: "clipping",
    louder_by_the_way: "level_change",
    quieter_by_the_way: "level_change", covered: "masking", cut_tail: "tail", clicking: "click",
    slipped_late: "out_of_sync", slipped_early: "out_of_sync", hole: "silent_shot",
    humming: "hum", off_zero: "dc", turned_over: "mono", too_wide: "mono", rushed: "hurried",
    dragging: "hurried", there_and_back: "undoing", left_over: "idle", off_target: "target",
    peaks_too_high: "target",
}  # fmt: skip

NEARLY: dict[Spoil, float] = {
    mix_too_loud: -0.08, recorded_too_loud: -0.2, raised_too_far: -0.1, louder_by_the_way: -0.6,
    quieter_by_the_way: -0.6, covered: -1.0, cut_tail: -0.1, clicking: -0.1, slipped_late: -0.05,
    slipped_early: -0.05, hole: -0.25, humming: -1.5, off_zero: -0.1, turned_over: -3.0,
    too_wide: -0.7, rushed: -0.2, dragging: -0.3, there_and_back: -0.2, left_over: -0.5,
    off_target: -0.1, peaks_too_high: -0.2,
}  # fmt: skip
"""Strengths at which each is not yet worth a word."""
