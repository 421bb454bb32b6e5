"""How long it sounds on."""

from __future__ import annotations

from bathyphon.core.effects.kit.swing_reach import lasts

__all__ = ["lasts"]
