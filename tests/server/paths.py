"""All addresses of the API, as its own description lists them, and the least that each takes."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

API = json.loads((Path(__file__).parents[2] / "web" / "openapi.json").read_text())
NOWHERE = "00000000-0000-4000-8000-000000000000"

STREAMED = [
    ("GET", "/api/events"),
    ("GET", "/api/uploads"),
    ("POST", "/api/uploads"),
    ("GET", "/api/uploads/{id}"),
    ("HEAD", "/api/uploads/{id}"),
    ("PATCH", "/api/uploads/{id}"),
    ("DELETE", "/api/uploads/{id}"),
    ("GET", "/api/media/{id}/peaks-256.i16"),
    ("GET", "/api/media/{id}/sound.wav"),
    ("GET", "/api/media/{id}/samples-0.i16"),
    ("GET", "/api/reels/{id}/sound/treated/0"),
    ("POST", "/api/reels/{id}/sound/treated/0"),
    ("GET", "/api/reels/{id}/archive.zip"),
    ("GET", "/api/reels/{id}/lists/markers.csv"),
    ("GET", "/api/exports/{id}/file"),
]
"""What the description does not list, because it is no JSON."""

DESCRIBED = [(m.upper(), path) for path, ways in API["paths"].items() for m in ways]
ALL = DESCRIBED + STREAMED


EDGE = "one-edge"
FORM = (
    f'--{EDGE}\r\nContent-Disposition: form-data; name="file"; filename="a.csv"\r\n'
    f"Content-Type: text/csv\r\n\r\nname,start\r\none,00:00:01:00\r\n--{EDGE}--\r\n"
).encode()
BODIES: dict[tuple[str, str], Any] = {
    ("POST", "/api/reels/{id}/edits"): {
        "edit_id": NOWHERE, "base": 0, "commands": [{"kind": "add_cut", "frame": 3}],
    },
}  # fmt: skip
"""Where the least that the description allows is refused before anything is looked up."""
VALUES = {"{recipe}": "ring_out", "of=x": "of=treated", "kind=x": "kind=spectrum"}


def kind_of(path: str) -> str:
    """What the ``{id}`` in an address is one of; empty if there is none."""
    before, found, _ = path.partition("/{id}")
    return before.removeprefix("/api/") if found else ""


def query_of(method: str, path: str) -> str:
    """The least that an address wants behind its ?."""
    way = API["paths"].get(path, {}).get(method.lower(), {})
    wanted = [p for p in way.get("parameters", []) if p["in"] == "query" and p.get("required")]
    return "&".join(f"{p['name']}={least(p['schema'])}" for p in wanted)


def body_of(method: str, path: str) -> tuple[Any, str]:
    """The least that an address wants sent, and of which content type."""
    if (method, path) in BODIES:
        return BODIES[method, path], "application/json"
    way = API["paths"].get(path, {}).get(method.lower(), {})
    content = way.get("requestBody", {}).get("content", {})
    kind = next(iter(content), "")
    if kind.startswith("multipart"):
        return FORM, f"{kind}; boundary={EDGE}"
    return (least(content[kind]["schema"]) if kind else None), kind


def least(schema: dict[str, Any]) -> Any:
    """The least value that a schema accepts."""
    if "$ref" in schema:
        return least(API["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]])
    for key in ("const", "default"):
        if key in schema:
            return schema[key]
    if "enum" in schema:
        return schema["enum"][0]
    if "anyOf" in schema:
        return least(schema["anyOf"][0])
    match schema.get("type"):
        case "object":
            wanted = schema.get("required", [])
            return {name: least(schema["properties"][name]) for name in wanted}
        case "array":
            return [least(schema["items"])] * schema.get("minItems", 0)
        case "string":
            return NOWHERE if schema.get("format") == "uuid" else "x" * schema.get("minLength", 1)
        case "integer" | "number":
            return schema.get("minimum", schema.get("exclusiveMinimum", -1) + 1)
        case "boolean":
            return False
        case _:
            return None
