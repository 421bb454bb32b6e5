"""Pitch: higher or lower in the same time, formants going along or staying."""

from __future__ import annotations

import numpy as np

from bathyphon.core.curves import Curve, Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State
from bathyphon.core.effects.delays import delayed
from bathyphon.core.effects.mixing import mixed
from bathyphon.core.measure.pitch import NOTES, sizes
from bathyphon.core.measure.scales import SCALES, pulled
from bathyphon.core.speed import shifter
from bathyphon.core.speed.speeding import NO_SHIFT, Speeding
from bathyphon.core.speed.tracked import Shift

FORMANTS = Parameter(
    "formants", "Formants", "", 0, 1, "linear", default=1, movable=False,
    choices=("follow", "hold"),
    help="Hold keeps the speaker's size; follow makes it a smaller or larger one.",
)  # fmt: skip
MATERIAL = Parameter(
    "material", "Material", "", 0, 1, "linear", default=0, movable=False,
    choices=("voice", "music"),
    help="A single voice keeps the shape of its pulses; all else is music.",
)  # fmt: skip
KEY = Parameter(
    "key", "Key", "", 0, 11, "linear", default=0, movable=False, choices=NOTES,
    help="The scale's own note.",
)  # fmt: skip
LOOKBACK_S = 1.0


def shifted(settings: Settings) -> bool:
    """Whether anything is moved."""
    ids = ("semitones", "cents", "formant_shift", "tune")
    return any(k.value != 0.0 for id in ids for k in settings.curves[id].keyframes)


def shift_by(
    settings: Settings,
    semitones: Curve,
    cents: Curve,
    formant_shift: Curve = NO_SHIFT,
    late: int = 0,
) -> Speeding:
    """A shift of the pitch, with what an effect says of formants and material.

    What is moved is heard ``late`` samples after it was sung; the curves are those of when it is
    heard.
    """
    return Speeding(
        Curve.constant(100.0),
        semitones,
        cents,
        formants="hold" if settings.choice("formants") == 1 else "follow",
        formant_shift=formant_shift,
        material="voice" if settings.choice("material") == 0 else "music",
        origin=late,
    )


def lowest_ratio(semitones: Curve, cents: Curve) -> float:
    """Smallest factor by which frequencies are multiplied."""
    return float(2.0 ** ((semitones.smallest + 0.01 * cents.smallest) / 12.0))


def lookahead(settings: Settings) -> int:
    """Samples that are waited for; none where nothing is moved."""
    if not shifted(settings):
        return 0
    lowest = lowest_ratio(settings.curves["semitones"], settings.curves["cents"])
    return shifter.lookahead(lowest, settings.sample_rate, tuned(settings))


def tuned(settings: Settings) -> bool:
    """Whether notes are drawn towards a scale."""
    return any(k.value != 0.0 for k in settings.curves["tune"].keyframes)


def _tuning(settings: Settings) -> Shift | None:
    """Semitones towards the nearest note of the scale, as far as the strength says."""
    if not tuned(settings):
        return None
    key, scale = settings.choice("key"), list(SCALES)[settings.choice("scale")]
    hop = sizes(settings.sample_rate)[2]

    def shift(notes: Floats, at: int) -> Floats:
        strength = settings.curves["tune"]
        shares = [
            strength.values(at + k * hop, 1, settings.sample_rate)[0] for k in range(notes.size)
        ]
        return np.asarray(pulled(notes, key, scale) * np.array(shares) / 100.0)

    return shift


class Pitch(Processor):
    """The sound at another pitch, beside the direct sound."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._late = lookahead(settings)
        self._waiting = np.zeros((2, self._late))
        curves = settings.curves
        speeding = shift_by(settings, curves["semitones"], curves["cents"], curves["formant_shift"])
        self._arriving = shifter.Arriving()
        self._shifter = shifter.Shifter(
            self._arriving, speeding, settings.sample_rate, _tuning(settings)
        )
        self._at: int | None = None

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Shift one block."""
        if not self._late:
            return x
        n = x.shape[1]
        if self._at is None:
            self._shifter.begin_at(at)
        self._arriving.take(x, at + self._late)
        self._at = at + n
        direct, self._waiting = delayed(self._waiting, x)
        if at + n <= 0:
            # Before the span nothing is heard.
            return direct
        wet = np.zeros((2, n))
        first = max(0, -at)
        wet[:, first:] = self._shifter.read(at + first, at + n)
        self._arriving.forget_before(self._shifter.needs(at + n))
        mix = self._settings.values("mix", at, n)
        return wet if mix.min() >= 100.0 else mixed(direct, wet, mix)

    def state(self) -> State:
        """Input that is still needed, and where it goes on."""
        at = self._at or 0
        held = self._arriving.state(self._shifter.needs(at))
        return (np.array([at]), self._waiting.copy(), *held, *self._shifter.state(at))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        at, waiting, head, held, *rest = state
        self._at = int(at[0])
        self._waiting = waiting.copy()
        self._arriving.restore((head, held))
        self._shifter.restore(tuple(rest))


EFFECT = Effect(
    id="pitch",
    label="Pitch",
    engages="blend",
    parameters=(
        Parameter(
            "semitones", "Semitones", "st", -24.0, 24.0, "linear", default=0.0,
            help="Twelve are an octave: +12 doubles every frequency, −12 halves it.",
        ),
        Parameter(
            "formant_shift", "Formants by", "st", -12.0, 12.0, "linear", default=0.0,
            help="Size of the speaker: below zero larger, above zero smaller; the note stays.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=100.0,
            help="Up to 50 % the direct sound stays whole; at 100 % only the moved one is left.",
        ),
        Parameter(
            "cents", "Cents", "ct", -100.0, 100.0, "linear", default=0.0,
            help="Hundredths of a semitone.",
        ),
        FORMANTS,
        MATERIAL,
        Parameter(
            "tune", "Tune", "%", 0.0, 100.0, "linear", default=0.0,
            help="Draws every note towards the nearest one of the scale; a voice on one note is a "
            "machine's.",
        ),
        Parameter(
            "scale", "Scale", "", 0, len(SCALES) - 1, "linear", default=0, movable=False,
            choices=tuple(SCALES), help="Notes that there are to tune to.",
        ),
        KEY,
    ),
    telling=("semitones", "formant_shift"),
    make=Pitch,
    lookback_s=LOOKBACK_S,
    lookahead=lookahead,
    help="Higher or lower in the same time, for voices, creatures and machines.",
)  # fmt: skip
