"""The voices of *The Ninth Sump*, spoken by speech synthesisers from Debian's packages.

Compared on one sentence (share of energy above 4 kHz, movement of pitch, roughness): espeak-ng,
flite (slt, rms, awb, kal16) and festival (slt HTS, kal). Mara is festival's statistical voice
``cmu_us_slt_arctic_hts``, the only one at 32 kHz; Odell is flite's ``rms``, which has the liveliest
pitch and the widest band among the men's voices.
"""

from __future__ import annotations

import subprocess
import tempfile
from pathlib import Path

import numpy as np
import soundfile
import soxr

from sounds import RATE, Sound, room

MARA, ODELL = "mara", "odell"
LINES: list[tuple[str, str, float, str, str]] = [
    # id, speaker, seconds, text, name
    (
        "l1",
        MARA,
        2.4,
        "They counted eight sumps in this hill. My father said nine.",
        "Mara · line 1",
    ),
    ("l2", ODELL, 8.0, "Radio stays with me. You stay with the line.", "Odell · line 2"),
    ("l3", MARA, 14.0, "It narrows here. Helmet off, and breathe out.", "Mara · line 3"),
    ("l4", MARA, 23.4, "Hello!", "Mara · the call"),
    ("l5", MARA, 29.6, "That wall is a long way off.", "Mara · line 5"),
    ("l6", MARA, 37.0, "Odell, I am at the pool.", "Mara · line 6"),
    ("l7", ODELL, 40.2, "Copy. Four minutes, then turn.", "Odell · line 7"),
    ("l8", ODELL, 55.6, "Mara. Was that you?", "Odell · line 8"),
    ("l9", MARA, 67.4, "There is air. There is air in here.", "Mara · line 9"),
    ("l10", MARA, 74.08, "Nobody has ever breathed this.", "Mara · line 10"),
    ("l11", MARA, 80.4, "Light is gone.", "Mara · line 11"),
]


def speak(speaker: str, text: str) -> Sound:
    """One line, mono at 48 kHz, at an even level."""
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "line.wav"
        if speaker == MARA:
            command = ["text2wave", "-eval", "(voice_cmu_us_slt_arctic_hts)", "-o", str(out)]
            subprocess.run(command, input=text.encode(), check=True)
        else:
            subprocess.run(["flite", "-voice", "rms", "-t", text, "-o", str(out)], check=True)
        x, rate = soundfile.read(out)
    y = np.asarray(soxr.resample(x, rate, RATE, quality="VHQ"))
    loud = np.abs(y) > 0.02 * np.abs(y).max()
    first, last = np.flatnonzero(loud)[[0, -1]]
    y = y[max(0, first - 960) : last + 2400]
    active = y[np.abs(y) > 0.1 * np.abs(y).max()]
    y *= 0.11 / np.sqrt(np.mean(active**2))
    n = 480
    y[:n] *= np.linspace(0, 1, n)
    y[-n:] *= np.linspace(1, 0, n)
    return room(np.tanh(y * 1.2) / 1.2, 0.25, 0.10)
