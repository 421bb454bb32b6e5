"""The JSON Schema of a file of presets."""

from __future__ import annotations

from typing import Any

from pydantic.json_schema import models_json_schema

from bathyphon.core.presets.bodies import BODIES
from bathyphon.core.presets.model import FORMAT, MOST, VERSION, Preset


def presets_schema() -> dict[str, Any]:
    """JSON Schema (2020-12): one preset, or a list of them."""
    models = [(model, "validation") for model in (Preset, *BODIES.values())]
    _, found = models_json_schema(models)  # type: ignore[arg-type]
    shared: dict[str, Any] = found["$defs"]
    schema = shared.pop("Preset")
    schema["allOf"] = [
        {
            "if": {"properties": {"kind": {"const": kind}}},
            "then": {"properties": {"body": {"$ref": f"#/$defs/{model.__name__}"}}},
        }
        for kind, model in BODIES.items()
    ]
    whole = {**schema, "required": ["format", "version", "kind", "name", "body"]}
    listed = {
        "type": "object",
        "required": ["format", "version", "presets"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "presets": {"type": "array", "maxItems": MOST, "items": {"$ref": "#/$defs/Listed"}},
        },
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Bathyphon presets",
        "oneOf": [{"$ref": "#/$defs/Preset"}, {"$ref": "#/$defs/List"}],
        "$defs": {**shared, "Preset": whole, "List": listed, "Listed": schema},
    }


if __name__ == "__main__":
    import json

    print(json.dumps(presets_schema(), indent=1, ensure_ascii=False))
