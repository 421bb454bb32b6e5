"""The mix against the loudness and the peak that were asked for."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.listen.finding import Check, Cure, Finding, Threshold
from bathyphon.core.listen.findings.clipping import OVER
from bathyphon.core.listen.mending import shifted
from bathyphon.core.listen.survey import Survey
from bathyphon.core.measure.levels import levels_of, over
from bathyphon.core.measure.tally import ROWS_A_SECOND
from bathyphon.core.words import signed

LOUDNESS = Threshold(
    "target_lufs", "Loudness asked for", "LUFS", None, -40.0, -5.0,
    "The integrated loudness that the whole is to have; as it is, none is asked for.",
    "EBU R 128: −23 LUFS for broadcast (from memory); web platforms ask for −16 to −14 (common "
    "practice)",
)  # fmt: skip
AROUND = Threshold(
    "target_within_lu", "Within", "LU", 0.5, 0.1, 6.0,
    "How far from the loudness asked for it may be.", "EBU R 128 (from memory)",
)  # fmt: skip
PEAK = Threshold(
    "target_dbtp", "Peak asked for", "dBTP", -1.0, -20.0, 0.0,
    "The true peak that the mix is to stay below.", "EBU R 128 (from memory)",
)  # fmt: skip


def find(survey: Survey) -> Iterator[Finding]:
    """A mix that is too loud, too quiet, or whose peaks are too high."""
    wanted = survey.threshold(LOUDNESS.id, LOUDNESS.value)
    within = survey.threshold(AROUND.id, AROUND.value) or 0.5
    peak = survey.threshold(PEAK.id, PEAK.value)
    rows = survey.rows(0, survey.length)
    levels = levels_of(rows)
    mix = survey.reel.mix
    if wanted is not None and levels.loudness is not None:
        change = wanted - levels.loudness
        if abs(change) > within:
            yield Finding(
                "target", 0, survey.length,
                f"The mix is {abs(change):.1f} LU too {'quiet' if change > 0 else 'loud'}",
                f"It has {levels.loudness:.1f} LUFS; {wanted:.1f} are asked for.",
                1.0, "mix", None,
                Cure(f"Turn it {'up' if change > 0 else 'down'} by {abs(change):.1f} dB", (
                    {"kind": "set_mix", "gain_db": shifted(mix.gain_db, change)},
                )),
                part="loudness",
            )  # fmt: skip
    clips = survey.threshold(OVER.id, OVER.value)
    top = levels.true_peak
    if peak is None or top is None or top <= peak + 0.02 or (clips is not None and top > clips):
        # What clips is a finding of its own.
        return
    places = over(rows, peak)
    tenth = survey.rate // ROWS_A_SECOND
    yield Finding(
        "target", places[0][0] * tenth, min(places[-1][1] * tenth, survey.length),
        f"Peaks reach {signed(top)} dBTP",
        f"{signed(peak)} are asked for, so that lossy coding has room.",
        1.0, "mix", None,
        Cure(f"Turn the mix down by {top - peak:.1f} dB", (
            {"kind": "set_mix", "gain_db": shifted(mix.gain_db, peak - top - 0.05)},
        )),
        part="peak",
    )  # fmt: skip


CHECK = Check(
    "target", "Off the target",
    "Whoever takes the film asks for a loudness and a highest peak; both can be set here.",
    find, (LOUDNESS, AROUND, PEAK), 15,
)  # fmt: skip
