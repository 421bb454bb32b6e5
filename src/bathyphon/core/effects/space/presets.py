"""Starting points; their values are common practice."""

from __future__ import annotations

from bathyphon.core.effects.kit.preset import Preset

PRESETS: tuple[Preset, ...] = (
    Preset("Cell", "Bare and narrow.", {"response": "cell", "mix": 35}),
    Preset("Parlour", "Curtains and chairs.", {"response": "parlour", "mix": 35}),
    Preset("Washroom", "Tiles all around.", {"response": "washroom", "mix": 38}),
    Preset("Stairwell", "Concrete, many floors.", {"response": "stairwell", "mix": 38}),
    Preset("Playhouse", "Rows of seats.", {"response": "playhouse", "mix": 35}),
    Preset("Nave", "A stone church.", {"response": "nave", "mix": 40}),
    Preset("Water tank", "Steel walls, drops and voices.", {"response": "tank", "mix": 42}),
    Preset("Air bell", "A pocket of air under rock.", {"response": "air_bell", "mix": 40}),
    Preset("Cavern", "Rock and a far wall.", {"response": "cavern", "mix": 42}),
    Preset("Steel plate", "Bright and dense, for voices and drums.",
           {"response": "plate", "mix": 30}),
    Preset("Spring", "The twang of an old amplifier.", {"response": "spring", "mix": 32}),
    Preset("Through the pipe", "A voice in a drain.", {"response": "pipe", "mix": 75}),
    Preset("In the barrel", "Wood close around it.", {"response": "barrel", "mix": 70}),
)  # fmt: skip
