"""Clicks where a clip begins or ends in the middle of its sound."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from scipy.signal import butter, sosfiltfilt

from bathyphon.core.arrays import Floats
from bathyphon.core.engine.edges import around, begins
from bathyphon.core.listen.finding import Check, Cure, Finding, Threshold
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.model import Clip, Track

CLICK = Threshold(
    "click_db", "Click", "dB", 8.0, 3.0, 40.0,
    "A clip’s edge whose treble stands out from the sound around it by more than this is a click.",
    "common practice; measured above 8 kHz over 10 ms, as the engine’s own clicks are",
)  # fmt: skip
FADE_SECONDS = 0.005
HIGH_HZ = 8000.0
QUIET_DBFS = -72.0
NEAR_SECONDS, SIDE_SECONDS = 0.005, 0.04


def find(survey: Survey) -> Iterator[Finding]:
    """Hard edges of clips that are heard as clicks."""
    limit = survey.threshold(CLICK.id, CLICK.value)
    if limit is None:
        return
    for track, clip in survey.clips():
        for edge in ("in", "out"):
            stands_out = _click(survey, track, clip, edge)
            if stands_out is None or stands_out <= limit:
                continue
            at = clip.start if edge == "in" else clip.end
            room = max(1, min(round(FADE_SECONDS * survey.rate), clip.length // 2))
            yield Finding(
                "click", at, at + 1,
                f"A click where “{survey.name_of_clip(clip)}” "
                f"{'begins' if edge == 'in' else 'ends'}",
                f"The sound is cut in the middle of a wave: above 8 kHz the edge stands out by "
                f"{stands_out:.0f} dB from what is around it.",
                min(1.0, 0.6 + (stands_out - limit) / 30.0), f"clip:{clip.id}", track.id,
                Cure(
                    "Fade it over 5 ms",
                    ({"kind": "set_fade", "id": clip.id, "edge": edge,
                      "fade": {"length": room, "shape": "smooth"}},),
                ),
                part=edge,
            )  # fmt: skip


def _click(survey: Survey, track: Track, clip: Clip, edge: str) -> float | None:
    """By how many dB an edge stands out; None where it is none."""
    fade = clip.fade_in if edge == "in" else clip.fade_out
    rate = survey.rate
    if fade.length >= 0.001 * rate:
        return None
    at = clip.start if edge == "in" else clip.end
    if edge == "in" and (at == 0 or _sound_begins(survey, clip)):
        return None
    node = survey.clips_of(track)
    reach = round(SIDE_SECONDS * rate)
    first = max(0, at - reach)
    sound = survey.sound(first, at + reach, node)
    return stands_out(sound, at - first, rate)


def stands_out(sound: Floats, at: int, rate: int) -> float | None:
    """By how many dB the treble at a place stands out from that around it.

    Parameters
    ----------
    sound : ndarray, shape (2, n)
    at : int
        The sample at which there may be a step.
    rate : int

    Returns
    -------
    float, or None where nothing is heard there
    """
    near = max(1, round(NEAR_SECONDS * rate))
    if sound.shape[1] < 8 * near:
        return None
    high = min(HIGH_HZ, 0.35 * rate)
    # Forwards and backwards, so that what belongs to the edge stays at the edge.
    treble = sosfiltfilt(butter(4, high, "highpass", fs=rate, output="sos"), sound, axis=1)
    power = np.mean(treble**2, axis=0)
    here = power[max(0, at - near) : at + near]
    if not here.size or 10 * np.log10(here.mean() + 1e-20) < QUIET_DBFS:
        return None
    sides = [power[: max(0, at - 2 * near)], power[at + 2 * near :]]
    beside = max((_loudest(side, 2 * near) for side in sides if side.size), default=0.0)
    return float(10 * np.log10((here.mean() + 1e-20) / (beside + 1e-12)))


def _loudest(power: Floats, width: int) -> float:
    whole = power[: power.size // width * width]
    return float(whole.reshape(-1, width).mean(axis=1).max()) if whole.size else float(power.mean())


def _sound_begins(survey: Survey, clip: Clip) -> bool:
    """Whether the recording itself begins there, as a hit does."""
    reach, place = around(survey.rate), clip.source_start
    sound = survey.media.read(clip.media, place - reach, place + reach).astype(np.float64)
    return begins(sound[:, :reach], sound[:, reach:])


CHECK = Check(
    "click", "Clicks at edits",
    "Where a wave is cut in the middle the step is heard as a click. A fade of a few milliseconds "
    "takes it away.",
    find, (CLICK,), 50,
)  # fmt: skip
