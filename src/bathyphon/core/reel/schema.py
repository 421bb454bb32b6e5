"""The document's JSON Schema."""

from __future__ import annotations

from typing import Any

from bathyphon.core.reel.model import Reel


def reel_schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of the document."""
    schema = Reel.model_json_schema()
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Bathyphon reel",
        **{k: v for k, v in schema.items() if k != "title"},
    }
