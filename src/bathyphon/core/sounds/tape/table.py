"""Old recording: the noise of tape, film and records."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="tape",
    label="Old recording",
    kind="bed",
    family="Tones and noise",
    parameters=(
        share("hiss", "Hiss", 60.0, "Tape's steady noise."),
        share("crackle", "Crackle", 20.0, "Dust and scratches."),
        share("rumble", "Rumble", 20.0, "What the mechanism adds below."),
        control(
            "turns",
            "Turns",
            "Hz",
            0.0,
            30.0,
            0.55,
            "How often it turns: some crackle comes back each time.",
        ),
    ),
    sounds=(
        Shipped(
            "Tape hiss", {"crackle": 0.0, "rumble": 8.0}, "cassette", "A tape that is running."
        ),
        Shipped(
            "Old record",
            {"hiss": 30.0, "crackle": 75.0, "rumble": 45.0},
            "vinyl gramophone",
            "Dust in the groove.",
        ),
        Shipped(
            "Film projector",
            {"hiss": 25.0, "crackle": 35.0, "rumble": 60.0, "turns": 24.0},
            "cinema reel",
            "The machine at the back of the hall.",
        ),
    ),
    words="vinyl record crackle hiss film projector analogue retro gramophone cassette",
    help="The noise of tape, film and records.",
    source="IEC 60094 (tape noise); common practice for crackle and rumble",
)
