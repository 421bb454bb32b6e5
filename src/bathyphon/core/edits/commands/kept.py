"""Commands on settings of a chain that are kept side by side."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from bathyphon.core.edits.command import EditCommand, Part, set_values
from bathyphon.core.edits.commands.chains import chain_name
from bathyphon.core.edits.find import at, chain_path
from bathyphon.core.edits.patch import Patch
from bathyphon.core.errors import Refused
from bathyphon.core.reel.model import Document
from bathyphon.core.timing.clock import Clock

MOST_KEPT = 64
Name = Field(min_length=1, max_length=400)


class KeepSettings(EditCommand):
    """Keep a chain as it is under a name, and go on with it as other settings.

    Settings that have a name already keep it; ``name`` is for those that have none yet.
    """

    kind: Literal["keep_settings"]
    owner: str
    name: str = Name
    then: str = Name

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        chain = at(document, path)
        name = chain.get("chosen") or self.name
        kept = _with(chain, name)
        if self.then == name or any(k["name"] == self.then for k in kept):
            raise Refused(f"there are settings named “{self.then}” already", "then")
        if len(kept) >= MOST_KEPT:
            raise Refused(f"at most {MOST_KEPT} settings are kept of one chain", "name")
        return set_values(document, path, {"kept": kept, "chosen": self.then})

    def title(self, document: Document) -> str:
        chosen = at(document, chain_path(document, self.owner)).get("chosen")
        return f"keep settings “{chosen or self.name}” of {chain_name(document, self.owner)}"


class UseKept(EditCommand):
    """Let other settings play; what played until now is kept under its name."""

    kind: Literal["use_kept"]
    owner: str
    name: str = Name

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        chain = at(document, path)
        now = chain.get("chosen", "")
        if now == self.name:
            return []
        there = _find(chain, self.name)
        kept = _with(chain, now) if now else list(chain.get("kept", []))
        values = {"effects": there["effects"], "kept": kept, "chosen": self.name}
        return set_values(document, path, values)

    def title(self, document: Document) -> str:
        return f"use settings “{self.name}” of {chain_name(document, self.owner)}"


class DropKept(EditCommand):
    """Take kept settings away; those that play stay."""

    kind: Literal["drop_kept"]
    owner: str
    name: str = Name

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        chain = at(document, path)
        if chain.get("chosen") == self.name:
            raise Refused("these settings play: use others before they are taken away", "name")
        _find(chain, self.name)
        kept = [k for k in chain["kept"] if k["name"] != self.name]
        return set_values(document, path, {"kept": kept})

    def title(self, document: Document) -> str:
        return f"remove settings “{self.name}” of {chain_name(document, self.owner)}"


class RenameKept(EditCommand):
    """Give settings of a chain another name."""

    kind: Literal["rename_kept"]
    owner: str
    name: str = Name
    to: str = Name

    def patch(self, document: Document, clock: Clock) -> Patch:
        path = chain_path(document, self.owner)
        chain = at(document, path)
        names = {k["name"] for k in chain.get("kept", [])} | {chain.get("chosen", "")}
        if self.name not in names:
            raise Refused(f"there are no settings named “{self.name}”", "name")
        if self.to != self.name and self.to in names:
            raise Refused(f"there are settings named “{self.to}” already", "to")
        kept = [
            {**k, "name": self.to} if k["name"] == self.name else k for k in chain.get("kept", [])
        ]
        chosen = self.to if chain.get("chosen") == self.name else chain.get("chosen", "")
        return set_values(document, path, {"kept": kept, "chosen": chosen})

    def title(self, document: Document) -> str:
        return f"call settings “{self.name}” “{self.to}”"


def _find(chain: Part, name: str) -> Part:
    found = next((k for k in chain.get("kept", []) if k["name"] == name), None)
    if found is None:
        raise Refused(f"there are no settings named “{name}”", "name")
    return dict(found)


def _with(chain: Part, name: str) -> list[Part]:
    """What is kept, with what plays now under a name."""
    entry = {"name": name, "effects": chain.get("effects", [])}
    kept = list(chain.get("kept", []))
    place = next((i for i, k in enumerate(kept) if k["name"] == name), None)
    if place is None:
        return [*kept, entry]
    return [*kept[:place], entry, *kept[place + 1 :]]
