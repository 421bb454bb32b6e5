"""``bathyphon effects``."""

from __future__ import annotations

from argparse import Namespace

from bathyphon.commands import Result
from bathyphon.core.effects import EFFECTS


def run(options: Namespace) -> Result:
    """``effects``."""
    tables = [effect.table() for effect in EFFECTS.values()]
    lines = []
    for table in tables:
        lines.append(f"{table['id']}: {table['help']} ({table['engages']})")
        for p in table["parameters"]:
            default = "" if p["default"] is None else f", default {p['default']:g}"
            lines.append(f"  {p['id']}: {p['low']:g} to {p['high']:g} {p['unit']}{default}")
    return {"effects": tables, "lines": lines}
