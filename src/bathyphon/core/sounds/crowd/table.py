"""Voices: people talking, none of whom is understood."""

from __future__ import annotations

from bathyphon.core.sounds.kit.table import ModelTable, Shipped, control, share

TABLE = ModelTable(
    id="crowd",
    label="Voices",
    kind="bed",
    family="People",
    parameters=(
        control(
            "people", "People", "", 2.0, 120.0, 14.0, "How many are talking.", "log", whole=True
        ),
        share("excited", "Excited", 30.0, "From a murmur to a shout."),
        control("room", "Room", "s", 0.1, 4.0, 0.8, "How long the place rings.", "log"),
    ),
    sounds=(
        Shipped("Café", {}, "restaurant bar", "A dozen tables."),
        Shipped(
            "Two in the next room",
            {"people": 2.0, "excited": 15.0, "room": 0.4},
            "conversation neighbours wall",
            "Somebody is talking in there.",
        ),
        Shipped(
            "Party",
            {"people": 45.0, "excited": 80.0, "room": 0.7},
            "celebration loud",
            "They are having a good time.",
        ),
        Shipped(
            "Before the concert",
            {"people": 110.0, "excited": 25.0, "room": 2.2},
            "audience theatre hall",
            "An audience settles.",
        ),
        Shipped(
            "Station hall",
            {"people": 60.0, "excited": 35.0, "room": 3.8},
            "railway airport",
            "Travellers under a roof.",
        ),
    ),
    words="people crowd walla murmur restaurant bar party audience talk chatter babble",
    help="People talking, none of whom is understood.",
    source="Byrne et al., “An international comparison of long-term average speech spectra” "
    "(1994); Peterson & Barney, “Control methods used in a study of the vowels” (1952); "
    "Houtgast & Steeneken (1985): some four syllables a second",
)
