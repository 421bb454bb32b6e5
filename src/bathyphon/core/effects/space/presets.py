"""Starting points; their values are common practice, their levels measured on speech and music."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset


def _place(name: str, help: str, response: str, mix: float, level_db: float, words: str) -> Preset:
    """A place that is as loud as all the others, and about as loud as untreated."""
    params = {"response": response, "mix": mix, "loudness": "alike", "level_db": level_db}
    return Preset(name, help, params, words)


PRESETS: tuple[Preset, ...] = (
    _place("Cell", "Bare and narrow.", "cell", 35, -1.0, "prison room concrete"),
    _place("Parlour", "Curtains and chairs.", "parlour", 35, -2.0, "living room"),
    _place("Washroom", "Tiles all around.", "washroom", 38, -1.5, "bathroom toilet shower"),
    _place(
        "Stairwell",
        "Concrete, many floors.",
        "stairwell",
        38,
        -2.0,
        "staircase stairs hallway corridor",
    ),
    _place(
        "Playhouse",
        "Rows of seats.",
        "playhouse",
        35,
        -2.0,
        "theatre theater hall auditorium stage concert",
    ),
    _place("Nave", "A stone church.", "nave", 40, -2.0, "church cathedral chapel"),
    _place(
        "Water tank", "Steel walls, drops and voices.", "tank", 42, -2.0, "tank cistern submarine"
    ),
    _place("Air bell", "A pocket of air under rock.", "air_bell", 40, -2.0, "cave pocket diving"),
    _place("Cavern", "Rock and a far wall.", "cavern", 42, -2.0, "cave grotto mine"),
    _place(
        "Steel plate",
        "Bright and dense, for voices and drums.",
        "plate",
        30,
        -1.0,
        "plate studio vintage",
    ),
    _place("Spring", "The twang of an old amplifier.", "spring", 32, 0.0, "amp guitar twang"),
    _place("Through the pipe", "A voice in a drain.", "pipe", 75, -0.5, "tunnel drain tube vent"),
    _place("In the barrel", "Wood close around it.", "barrel", 34, -1.0, "box wood crate"),
)
