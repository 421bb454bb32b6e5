"""``bathyphon effects``."""

from __future__ import annotations

from argparse import Namespace
from typing import Any

from bathyphon.commands import Result
from bathyphon.core.effects import EFFECTS


def run(options: Namespace) -> Result:
    """``effects``."""
    tables = [effect.plain() for effect in EFFECTS.values()]
    lines = []
    for table in tables:
        lines.append(f"{table['id']}: {table['help']} ({table['engages']})")
        lines += [f"  {_row(p)}" for p in table["parameters"]]
        group, reference = table["group"], table["reference"]
        if group:
            lines += [f"  {group['id']}.0.{_row(p)}" for p in group["parameters"]]
        if reference:
            lines.append(f"  {reference['id']}: a {reference['to']}")
    return {"effects": tables, "lines": lines}


def _row(p: dict[str, Any]) -> str:
    if p["choices"]:
        return f"{p['id']}: {', '.join(p['choices'])}; default {p['choices'][int(p['default'])]}"
    default = "" if p["default"] is None else f", default {p['default']:g}"
    return f"{p['id']}: {p['low']:g} to {p['high']:g} {p['unit']}{default}"
