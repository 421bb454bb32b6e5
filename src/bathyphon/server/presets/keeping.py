"""An account's presets: kept, found, changed and handed on."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F, prefetch_related_objects
from django.shortcuts import get_object_or_404
from django.utils import timezone

from bathyphon.core.effects import EFFECTS
from bathyphon.core.errors import Refused
from bathyphon.core.presets.bodies import Kind
from bathyphon.core.presets.model import FORMAT, VERSION, Preset, plain, read_presets
from bathyphon.core.presets.poses import preset_of_poses
from bathyphon.core.presets.taking import preset_of
from bathyphon.core.presets.usable import usable
from bathyphon.core.presets.using import Target, Used, used_on
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.made import Made
from bathyphon.core.typed.words import (
    HELP,
    NAME,
    NAME_BEGUN,
    WORD,
    WORD_BEGUN,
    asked_words,
    fitness,
    words_of,
)
from bathyphon.formats.computed import computed
from bathyphon.server.ids import new_id
from bathyphon.server.media.models import Media
from bathyphon.server.media.storage import local_file
from bathyphon.server.presets.models import KeptPreset
from bathyphon.server.reels.head import Head, seen_by
from bathyphon.server.reels.models import Reel

MOST = 5000
"""Presets of one account."""


def listed(account: User, text: str = "", kind: str = "") -> list[KeptPreset]:
    """Presets that words may mean: favourites first, then those used last, then by name.

    Recipes are no presets to who looks for those; they come where they are asked for.
    """
    seen = KeptPreset.visible_to(account)
    rows = seen.filter(kind=kind) if kind else seen.exclude(kind="recipe")
    rows = rows.select_related("account").prefetch_related("shared")
    order = F("used").desc(nulls_last=True)
    ordered = list(rows.order_by("-favourite", order, "name", "created"))
    # What a colleague likes and has used last is theirs.
    ordered.sort(key=lambda row: row.account_id != account.pk)
    words = asked_words(text)
    if not words:
        return ordered
    found = [(_fitness(words, row), row) for row in ordered]
    return [row for fit, row in sorted(found, key=lambda hit: -hit[0]) if fit > 0]


def _fitness(words: list[str], row: KeptPreset) -> float:
    document = row.document
    return fitness(
        words,
        row.name.lower(),
        (
            (NAME, NAME_BEGUN, words_of([row.name])),
            (WORD, WORD_BEGUN, words_of(document.get("tags", []))),
            (WORD, WORD_BEGUN, words_of([row.kind, *effects_in(document)])),
            (HELP, HELP, words_of([document.get("note", "")])),
        ),
    )


def effects_in(document: dict[str, Any]) -> list[str]:
    """What the effects of a preset are called."""
    body = document.get("body", {})
    if document.get("kind") == "poses":
        return [pose["name"] for pose in body["poses"]]
    kinds = (
        [body.get("kind")]
        if document.get("kind") == "effect"
        else [effect.get("kind") for effect in body.get("effects", [])]
    )
    return [EFFECTS[kind].label if kind in EFFECTS else str(kind) for kind in kinds]


def taken(
    account: User, reel: uuid.UUID, kind: Kind, owner: str, name: str, effect: str | None
) -> KeptPreset:
    """Keep a preset of a part of a reel."""
    return keep(account, _fresh(seen_by(account, reel), kind, owner, name, effect))[0]


def _fresh(head: Head, kind: Kind, owner: str, name: str, effect: str | None) -> Preset:
    if kind == "poses":
        return preset_of_poses(head.document, owner, name)
    return preset_of(head.document, head.reel, kind, owner, name, effect)


def made_in(account: User, media: uuid.UUID) -> Made:
    """The computed sound that a medium holds."""
    row = Media.visible_to(account).filter(pk=media).first()
    made = computed(local_file(row.blob)) if row else None
    if made is None:
        raise Refused("this medium is no computed sound", "media")
    return made


def sound_in(document: Mapping[str, Any]) -> dict[str, Any] | None:
    """The sound of a bed's preset; none of another kind, or of one that is not known here."""
    body = document["body"]
    if document.get("kind") != "bed" or body["model"] not in MODELS:
        return None
    try:
        settings = MODELS[body["model"]].settings(body.get("settings", {}))
    except Refused:
        return None
    return {
        "model": body["model"],
        "settings": settings,
        "seed": body.get("seed", 1),
        "gain_db": body.get("gain_db", 0.0),
    }


def keep(account: User, *presets: Preset) -> list[KeptPreset]:
    """Keep presets with an account, all of them or none."""
    if KeptPreset.owned_by(account).count() + len(presets) > MOST:
        raise Refused(f"an account keeps no more than {MOST} presets; remove some first")
    rows = KeptPreset.objects.bulk_create(
        KeptPreset(account=account, kind=p.kind, name=p.name, document=plain(p)) for p in presets
    )
    # With whom they are shared is asked once for all of them.
    prefetch_related_objects(rows, "shared")
    return rows


def changed(account: User, id: uuid.UUID, values: dict[str, Any]) -> KeptPreset:
    """Another name, note, tags, or whether it is a favourite."""
    with transaction.atomic():
        # Two changes at once must not undo each other.
        row = own(account, id, locked=True)
        if "favourite" in values:
            row.favourite = bool(values.pop("favourite"))
        (preset,) = read_presets({**row.document, **values})
        row.name, row.document = preset.name, plain(preset)
        row.save()
    return row


def own(account: User, id: uuid.UUID, locked: bool = False) -> KeptPreset:
    """A preset that an account may change.

    Raises
    ------
    Refused
        Where it is a colleague's.
    Http404
        Where there is none.
    """
    seen = get_object_or_404(KeptPreset.visible_to(account), pk=id)
    if seen.account_id != account.pk:
        raise Refused(f"this is {seen.account.get_username()}'s; keep a copy to change it")
    rows = KeptPreset.owned_by(account)
    return get_object_or_404(rows.select_for_update() if locked else rows, pk=id)


def share(account: User, id: uuid.UUID, reel: uuid.UUID, shared: bool) -> KeptPreset:
    """Let whoever may see a reel use a preset, or no longer."""
    row = own(account, id)
    there = get_object_or_404(Reel.visible_to(account), pk=reel)
    if shared:
        row.shared.add(there)
    else:
        row.shared.remove(there)
    return row


def copied(account: User, id: uuid.UUID) -> KeptPreset:
    """A preset of one's own that is like one that is shared, or like another of one's own."""
    row = get_object_or_404(KeptPreset.visible_to(account), pk=id)
    return keep(account, *read_presets(row.document))[0]


def replaced(
    account: User, id: uuid.UUID, reel: uuid.UUID, owner: str, effect: str | None
) -> KeptPreset:
    """A preset as a part of a reel is now; its name, note and tags stay."""
    head = seen_by(account, reel)
    with transaction.atomic():
        row = own(account, id, locked=True)
        kind: Kind = row.kind  # type: ignore[assignment]
        if kind in ("bed", "recipe"):
            raise Refused("only effects, treatments and poses are updated from a selection")
        fresh = _fresh(head, kind, owner, row.name, effect)
        row.document = {**row.document, "body": fresh.body}
        row.save(update_fields=["document"])
    return row


def worked_out(account: User, id: uuid.UUID, reel: uuid.UUID, target: Target, trying: bool) -> Used:
    """The edits that put a preset on a place of a reel; what is only tried is not used yet."""
    row = get_object_or_404(KeptPreset.visible_to(account), pk=id)
    head = seen_by(account, reel)
    (preset,) = read_presets(row.document)
    used = used_on(preset, head.document, head.reel, target, new_id)
    if not trying:
        used_now(account, row.pk)
    return used


def used_now(account: User, id: uuid.UUID) -> None:
    """Remember when one of one's own was used last."""
    KeptPreset.owned_by(account).filter(pk=id).update(used=timezone.now())


def as_file(rows: Iterable[KeptPreset]) -> dict[str, Any]:
    """Presets as one file."""
    return {"format": FORMAT, "version": VERSION, "presets": [row.document for row in rows]}


def brought_in(account: User, document: Any) -> tuple[list[KeptPreset], list[str]]:
    """Keep the presets of a file; what this version cannot use of them is said, and kept."""
    presets = read_presets(document)
    notes: list[str] = []
    for preset in presets:
        try:
            notes += [f"{preset.name}: {note}" for note in usable(preset)[1]]
        except Refused as error:
            notes.append(f"{error.message}; it is kept all the same.")
    return keep(account, *presets), notes
