"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Cell", "Bare and narrow.", {"response": "cell", "mix": 35},
           words="prison room concrete"),
    Preset("Parlour", "Curtains and chairs.", {"response": "parlour", "mix": 35},
           words="living room"),
    Preset("Washroom", "Tiles all around.", {"response": "washroom", "mix": 38},
           words="bathroom toilet shower"),
    Preset("Stairwell", "Concrete, many floors.", {"response": "stairwell", "mix": 38},
           words="staircase stairs hallway corridor"),
    Preset("Playhouse", "Rows of seats.", {"response": "playhouse", "mix": 35},
           words="theatre theater hall auditorium stage concert"),
    Preset("Nave", "A stone church.", {"response": "nave", "mix": 40},
           words="church cathedral chapel"),
    Preset("Water tank", "Steel walls, drops and voices.", {"response": "tank", "mix": 42},
           words="tank cistern submarine"),
    Preset("Air bell", "A pocket of air under rock.", {"response": "air_bell", "mix": 40},
           words="cave pocket diving"),
    Preset("Cavern", "Rock and a far wall.", {"response": "cavern", "mix": 42},
           words="cave grotto mine"),
    Preset("Steel plate", "Bright and dense, for voices and drums.",
           {"response": "plate", "mix": 30},
           words="plate studio vintage"),
    Preset("Spring", "The twang of an old amplifier.", {"response": "spring", "mix": 32},
           words="amp guitar twang"),
    Preset("Through the pipe", "A voice in a drain.", {"response": "pipe", "mix": 75},
           words="tunnel drain tube vent"),
    Preset("In the barrel", "Wood close around it.", {"response": "barrel", "mix": 70},
           words="box wood crate"),
)  # fmt: skip
