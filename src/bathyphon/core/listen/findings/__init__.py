"""What may sound wrong in a reel: one module a kind, found by itself."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from bathyphon.core.listen.finding import Check

CHECKS: tuple[Check, ...] = tuple(
    sorted(
        (import_module(f"{__name__}.{m.name}").CHECK for m in iter_modules(__path__)),
        key=lambda check: check.place,
    )
)
