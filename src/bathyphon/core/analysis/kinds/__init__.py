"""Kinds of analysis: one module each, found by itself."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from bathyphon.core.analysis.kind import Kind

KINDS: dict[str, Kind] = {
    kind.id: kind
    for kind in sorted(
        (import_module(f"{__name__}.{m.name}").KIND for m in iter_modules(__path__)),
        key=lambda kind: kind.place,
    )
}
