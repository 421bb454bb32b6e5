"""``python -m bathyphon.core.typed``: how values are written, for the front end."""

from __future__ import annotations

import json

from bathyphon.core.typed.spellings import plain

if __name__ == "__main__":
    print(json.dumps(plain(), indent=2, ensure_ascii=False))
