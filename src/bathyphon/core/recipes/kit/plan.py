"""What a recipe makes: commands, those that take it back, and the parts that it is made of."""

from __future__ import annotations

from typing import Any

from bathyphon.core.edits.find import clip_path
from bathyphon.core.edits.here import Stretch
from bathyphon.core.edits.spans import fitting
from bathyphon.core.errors import Refused
from bathyphon.core.recipes.kit.scene import Part, Scene

Command = dict[str, Any]


class Plan:
    """Gathers the edits of one recipe.

    Each method adds an edit, what takes it back, and the name of the part that it makes.

    Parameters
    ----------
    scene : Scene
    name : str
        What treatments are called that have no name of their own.

    Attributes
    ----------
    commands, back : list of dict
    parts : list of str
        ``treatment:ID``, ``clip:ID``, ``effect:OWNER|ID``, ``values:clip:ID|KEY,KEY``.
    span : Stretch or None
        What is to be heard of it.
    said : list of str
        What else one should know, in sentences.
    """

    def __init__(self, scene: Scene, name: str) -> None:
        self._scene = scene
        self._name = name
        self.commands: list[Command] = []
        self.back: list[Command] = []
        self.parts: list[str] = []
        self.span: Stretch | None = None
        self.said: list[str] = []

    def treat(
        self,
        track: str,
        within: Stretch,
        effects: list[Part],
        ramp_in: int = 0,
        ramp_out: int = 0,
        name: str = "",
        shapes: tuple[Part, Part] = ({}, {}),
        chain: Part | None = None,
    ) -> str:
        """A treatment over a stretch of a track, its ramps in samples as far as they fit.

        ``shapes`` are those of the ramps, ``chain`` a strength and a ring-out of its own.
        """
        id = self._scene.new_id("f")
        room = within.end - within.start
        if room <= 0:
            raise Refused("the stretch has no length")
        ramp_in, ramp_out = fitting(ramp_in, ramp_out, room)
        self.commands.append(
            {
                "kind": "add_treatment",
                "track": track,
                "id": id,
                "name": name or self._name,
                "start": {"sample": within.start},
                "end": {"sample": within.end},
                "ramp_in": {"length": ramp_in, **shapes[0]},
                "ramp_out": {"length": ramp_out, **shapes[1]},
                "effects": [self._with_id(e) for e in effects],
            }
        )
        if chain:
            self.commands.append({"kind": "set_chain", "owner": f"treatment:{id}", **chain})
        self.back.append({"kind": "remove_treatment", "id": id})
        self.parts.append(f"treatment:{id}")
        self.cover(within.start, within.end)
        return id

    def effects(self, owner: str, effects: list[Part]) -> None:
        """Effects at the end of a clip's or a track's own treatment."""
        for effect in (self._with_id(e) for e in effects):
            self.commands.append({"kind": "add_effect", "owner": owner, "effect": effect})
            self.back.insert(0, {"kind": "remove_effect", "owner": owner, "id": effect["id"]})
            self.parts.append(f"effect:{owner}|{effect['id']}")

    def set_clip(self, id: str, **values: Any) -> None:
        """Values of a clip that is there."""
        path = clip_path(self._scene.document, id)
        clip = self._scene.document["tracks"][path[1]]["clips"][path[3]]
        old = {
            "start": clip["start"], "length": clip["length"], "gain_db": 0.0,
            "fade_in": {"length": 0, "shape": "linear"},
            "fade_out": {"length": 0, "shape": "linear"}, "enabled": True,
        }  # fmt: skip
        was = {key: clip.get(key, old.get(key)) for key in values}
        self.commands.append({"kind": "set_clip", "id": id, **values})
        self.back.append({"kind": "set_clip", "id": id, **was})
        self.parts.append(f"values:clip:{id}|{','.join(sorted(values))}")
        self.cover(clip["start"], clip["start"] + clip["length"])

    def do(self, command: Command, back: list[Command], part: str) -> None:
        """Any other edit, with what takes it back."""
        self.commands.append(command)
        self.back += back
        self.parts.append(part)

    def bed(
        self,
        within: Stretch,
        model: str,
        settings: dict[str, float],
        name: str,
        gain_db: float = 0.0,
        seed: int = 1,
    ) -> None:
        """A computed bed over a stretch."""
        rate = self._scene.clock.sample_rate
        seconds = (within.end - within.start) / rate
        media, path, samples = self._scene.sounds(model, settings, seconds, name, seed)
        clip = self._scene.new_id("c")
        self.commands.append(
            {
                "kind": "lay_bed",
                "media": media,
                "path": path,
                "clip": clip,
                "sound": {"samples": samples, "rate": rate},
                "gain_db": gain_db,
                "start": {"sample": within.start},
                "end": {"sample": within.end},
                "new_track": self._scene.new_id("t"),
            }
        )
        self.back.insert(0, {"kind": "remove_beds", "ids": [clip]})
        self.parts.append(f"clip:{clip}")
        self.cover(within.start, within.end)

    def hit(
        self,
        at: int,
        model: str,
        settings: dict[str, float],
        name: str,
        gain_db: float = 0.0,
        seed: int = 1,
    ) -> None:
        """A computed hit that begins at a moment, on a track of its own."""
        rate = self._scene.clock.sample_rate
        media, path, samples = self._scene.sounds(model, settings, 1.0, name, seed)
        clip = self._scene.new_id("c")
        medium = {"kind": "add_medium", "medium": {"id": media, "path": path}}
        known = any(m["id"] == media for m in self._scene.document.get("media", []))
        # The same sound may be laid several times.
        if not known and medium not in self.commands:
            self.commands.append(medium)
        track = self._scene.new_id("t")
        self.commands.append(
            {
                "kind": "lay_sound",
                "media": media,
                "clip": clip,
                "gain_db": gain_db,
                "sound": {"samples": samples, "rate": rate},
                "at": {"sample": at},
                "new_track": track,
            }
        )
        self.back.insert(0, {"kind": "remove_track", "id": track})
        self.parts.append(f"clip:{clip}")
        self.cover(at, at + samples)

    def record(self, recipe: str, answers: dict[str, Any]) -> None:
        """The last edit: the reel remembers what was made, and how to take it back."""
        place = {k: v for k, v in vars(self._scene.place).items() if v is not None}
        self.commands.append(
            {
                "kind": "record_recipe",
                "label": self._name,
                "id": self._scene.new_id("r"),
                "recipe": recipe,
                "answers": answers,
                "place": place,
                "parts": self.parts,
                "back": self.back,
            }
        )

    def _with_id(self, effect: Part) -> Part:
        return {"id": self._scene.new_id("e"), **effect}

    def cover(self, start: int, end: int) -> None:
        """What is to be heard of it reaches from and to here at least."""
        old = self.span or Stretch(start, end)
        self.span = Stretch(min(old.start, start), max(old.end, end))
