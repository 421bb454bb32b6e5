"""``python -m bathyphon.core.edits``: what moves beside effects, for the front end."""

from __future__ import annotations

import json

from bathyphon.core.edits.movable import plain

if __name__ == "__main__":
    print(json.dumps(plain(), indent=2, ensure_ascii=False))
