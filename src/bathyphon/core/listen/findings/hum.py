"""Mains hum: 50 or 60 Hz with its overtones."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.listen.finding import Check, Cure, Finding, Threshold
from bathyphon.core.listen.mending import add_effect
from bathyphon.core.listen.recordings import heard_of
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.spectrum import db_of_power, one_sided
from bathyphon.core.reel.model import Clip, Track

HUM = Threshold(
    "hum_db", "Hum", "dB", 12.0, 6.0, 40.0,
    "Tones at 50 or 60 Hz and their multiples that stand out by more than this, all the time, are "
    "hum.",
    "common practice",
)  # fmt: skip
MAINS_HZ = (50.0, 60.0)
OVERTONES = 6
FEWEST, CLEAR_DB, WEAKER_DB = 3, 40.0, 4.0
"""Three tones that stand out, or two, of which one may be weaker, by so much together."""
SECONDS = 1
QUIETEST_DBFS = -75.0
QUIET_SHARE, STEADY_SHARE, STEADY_DB = 1 / 3, 0.8, 6.0
"""Hum is heard where all else is quiet: in most of the quietest moments, and it is never gone."""
NOTCH_Q = 24.0


def find(survey: Survey) -> Iterator[Finding]:
    """Clips whose recording hums."""
    limit = survey.threshold(HUM.id, HUM.value)
    if limit is None:
        return
    for track, clip in survey.clips():
        if clip.length < SECONDS * survey.rate or _mended(track, clip):
            continue
        hum = _hum(survey, clip, limit)
        if hum is None:
            continue
        mains, tones, level = hum
        bands = [{"type": "notch", "freq_hz": hz, "q": NOTCH_Q} for hz in tones]
        listed = ", ".join(f"{hz:.0f}" for hz in tones)
        yield Finding(
            "hum", clip.start, clip.end, f"“{survey.name_of_clip(clip)}” hums at {mains:.0f} Hz",
            f"Steady tones at {listed} Hz stand out by {level:.0f} dB.",
            min(1.0, 0.5 + 0.1 * len(tones)), f"clip:{clip.id}", track.id,
            Cure("Take the tones out of the track", (
                add_effect(survey, f"track:{track.id}", "eq", {"bands": bands}, index=0),
            )),
        )  # fmt: skip


def _mended(track: Track, clip: Clip) -> bool:
    """Whether a notch at the mains is there already."""
    return any(
        band.get("type") == "notch" and any(_near(band.get("freq_hz"), hz) for hz in MAINS_HZ)
        for effect in (*clip.treatment.effects, *track.treatment.effects)
        if effect.kind == "eq" and not effect.bypass
        for band in effect.params.get("bands", [])
    )


def _near(value: object, mains: float) -> bool:
    if not isinstance(value, (int, float)):
        return False
    ratio = value / mains
    return abs(ratio - round(ratio)) < 0.02 and 1 <= round(ratio) <= OVERTONES


def _hum(survey: Survey, clip: Clip, limit: float) -> tuple[float, list[float], float] | None:
    """Mains frequency, the tones that are there, and by how much they stand out at the median."""
    moments = _moments(survey, clip)
    if len(moments) < 4:
        return None
    order = np.argsort([power.sum() for power in moments])
    quiet = order[: max(2, round(QUIET_SHARE * len(moments)))]
    best: tuple[float, list[float], float] | None = None
    for mains in MAINS_HZ:
        tones, levels = [], []
        for k in range(1, OVERTONES + 1):
            found = np.array([_stands_out(power, k * mains) for power in moments])
            out, loud = found[:, 0], found[:, 1]
            there = (out[quiet] > limit - WEAKER_DB) & (loud[quiet] > QUIETEST_DBFS)
            # A tone of music comes and goes, and moves; hum does neither.
            gone = loud.min() < np.median(loud[quiet]) - STEADY_DB
            if there.mean() >= STEADY_SHARE and not gone:
                tones.append(k * mains)
                levels.append(float(np.median(out[quiet])))
        if _is_hum(levels, limit) and (best is None or sum(levels) > best[2]):
            best = mains, tones, sum(levels)
    return best and (best[0], best[1], best[2] / len(best[1]))


def _is_hum(levels: list[float], limit: float) -> bool:
    """Whether so many tones of a row stand out, or fewer of them so clearly."""
    plain = sum(level > limit for level in levels)
    return plain >= FEWEST or (plain >= 1 and len(levels) >= 2 and sum(levels) > CLEAR_DB)


def _moments(survey: Survey, clip: Clip) -> list[Floats]:
    """Power spectra of a second each, half a second apart, in hertz."""
    rate, window = survey.rate, np.hanning(SECONDS * survey.rate)
    found: list[Floats] = []
    waiting = np.zeros(0)
    for part in heard_of(survey, clip):
        waiting = np.concatenate([waiting, 0.5 * (part[0] + part[1])])
        while waiting.size >= SECONDS * rate:
            spectrum = np.abs(np.fft.rfft(waiting[: SECONDS * rate] * window)) ** 2
            found.append(
                one_sided(spectrum, window)[: SECONDS * round(MAINS_HZ[1] * (OVERTONES + 1))]
            )
            waiting = waiting[SECONDS * rate // 2 :]
    return found


def _stands_out(power: Floats, hz: float) -> tuple[float, float]:
    """By how many dB a tone stands out from what is beside it, and how loud it is."""
    at = round(hz * SECONDS)
    tone = power[at - 1 : at + 2].sum()
    beside = np.concatenate([power[at - 9 : at - 3], power[at + 4 : at + 10]])
    floor = 3.0 * float(np.median(beside)) if beside.size else 0.0
    return db_of_power(float(tone)) - db_of_power(floor + 1e-16), db_of_power(float(tone))


CHECK = Check(
    "hum", "Hum",
    "Mains in a cable: 50 Hz in Europe, 60 Hz in America, with overtones. Narrow notches take it "
    "out and leave the voice alone.",
    find, (HUM,), 80,
)  # fmt: skip
