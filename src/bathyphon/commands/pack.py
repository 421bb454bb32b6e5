"""``bathyphon pack``: a reel with its media as one file."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path

from bathyphon.commands import Result
from bathyphon.core.errors import Refused
from bathyphon.core.reel.chains import used_media
from bathyphon.core.reel.parse import read_reel
from bathyphon.formats.archive import packed, source_of_file
from bathyphon.formats.reel_file import load_document


def run(options: Namespace) -> Result:
    """``pack REEL.json OUT``."""
    path, out = Path(options.reel), Path(options.out)
    document = load_document(path)
    used = used_media(read_reel(document))
    media = {}
    for medium in document.get("media", []):
        file = path.parent / medium["path"]
        if file.is_file():
            media[medium["id"]] = source_of_file(file)
        elif medium["id"] in used:
            raise Refused(
                f"the medium “{medium['id']}” should be at “{file}”, but there is no such file"
            )
    partial = out.with_name(out.name + ".part")
    try:
        with partial.open("wb") as written:
            written.writelines(packed(document, media))
        partial.replace(out)
    except OSError as error:
        raise Refused(f"“{out}” cannot be written: {error.strerror}") from None
    finally:
        partial.unlink(missing_ok=True)
    size = out.stat().st_size
    return {
        "out": str(out),
        "media": len(media),
        "bytes": size,
        "lines": [f"{out}: the reel with {len(media)} media, {size / 2**20:.1f} MB"],
    }
