"""A constant offset in a recording."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bathyphon.core.listen.finding import Check, Cure, Finding, Threshold
from bathyphon.core.listen.mending import add_effect
from bathyphon.core.listen.recordings import heard_of
from bathyphon.core.listen.survey import Survey
from bathyphon.core.reel.model import Clip, Track

OFFSET = Threshold(
    "dc_dbfs", "Offset", "dBFS", -46.0, -80.0, -20.0,
    "A recording whose mean lies farther from zero than this has an offset.",
    "common practice: half a percent of full scale",
)  # fmt: skip
CUT_HZ = 20.0


def find(survey: Survey) -> Iterator[Finding]:
    """Clips whose recording does not swing about zero."""
    limit = survey.threshold(OFFSET.id, OFFSET.value)
    if limit is None:
        return
    for track, clip in survey.clips():
        if clip.length < survey.rate // 2 or _mended(track, clip):
            continue
        total, count = np.zeros(2), 0
        for part in heard_of(survey, clip):
            total += part.sum(axis=1)
            count += part.shape[1]
        offset = float(np.abs(total / max(1, count)).max())
        level = float(20 * np.log10(offset + 1e-9))
        if level <= limit:
            continue
        band = {"type": "low_cut", "freq_hz": CUT_HZ}
        cure = add_effect(survey, f"track:{track.id}", "eq", {"bands": [band]}, index=0)
        yield Finding(
            "dc", clip.start, clip.end, f"“{survey.name_of_clip(clip)}” has a DC offset",
            f"Its mean is {100 * offset:.1f} % of full scale: that takes room from the sound, and "
            "clicks at every edit.",
            min(1.0, 0.6 + (level - limit) / 20.0), f"clip:{clip.id}", track.id,
            Cure(f"Cut the track below {CUT_HZ:.0f} Hz", (cure,)),
        )  # fmt: skip


def _mended(track: Track, clip: Clip) -> bool:
    return any(
        band.get("type") == "low_cut"
        for effect in (*clip.treatment.effects, *track.treatment.effects)
        if effect.kind == "eq" and not effect.bypass
        for band in effect.params.get("bands", [])
    )


CHECK = Check(
    "dc", "DC offset",
    "A fault of converters and cables. A low cut at 20 Hz takes it away and nothing that is heard.",
    find, (OFFSET,), 85,
)  # fmt: skip
