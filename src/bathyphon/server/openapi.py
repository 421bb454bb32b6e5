"""Writes the API's description, from which the TypeScript client is generated."""

from __future__ import annotations

import json
import os
import sys


def description() -> str:
    """The OpenAPI description as JSON text."""
    from bathyphon.server.api import api

    return (
        json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, ensure_ascii=False) + "\n"
    )


if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathyphon.server.settings.testing")
    import django

    django.setup()
    sys.stdout.write(description())
