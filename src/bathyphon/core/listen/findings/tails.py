"""Tails that are cut off while they are still heard."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.engine.nodes import TreatedNode
from bathyphon.core.listen.finding import Check, Command, Cure, Finding, Threshold
from bathyphon.core.listen.ringing import STEP_SECONDS, level_of, ringing_at, tail_level
from bathyphon.core.listen.survey import Owner, Survey

HEARD = Threshold(
    "tail_db", "Cut tail", "dB", -45.0, -90.0, -10.0,
    "A tail that is cut while it lies above this, against the loudest of its span, is pointed out.",
    "common practice: a cut 45 dB down is covered by what follows it",
)  # fmt: skip
PICTURE_DBFS = -50.0
BEYOND_SECONDS = 0.5


def find(survey: Survey) -> Iterator[Finding]:
    """Treatments that do not ring out, and sound that goes on after the picture has ended."""
    limit = survey.threshold(HEARD.id, HEARD.value)
    if limit is not None:
        for owner in survey.owners():
            yield from _cut(survey, owner, limit)
    yield from _beyond_picture(survey)


def _cut(survey: Survey, owner: Owner, limit: float) -> Iterator[Finding]:
    node, chain = owner.node, owner.chain
    if node is None or chain.ring_out == "auto":
        return
    if node.plan.natural_tail <= node.plan.tail + STEP_SECONDS * survey.rate:
        return
    fade = 0 if chain.ring_out == "none" else node.plan.tail // 4
    end = node.start + node.plan.length + node.plan.tail - fade
    command: Command = {"kind": "set_chain", "owner": owner.name, "ring_out": "auto"}
    free = survey.after(command)
    ringing = free.places.treated[node.name]
    step = round(STEP_SECONDS * survey.rate)
    loudest = max(
        (level_of(survey.sound(at, at + step, node)) for at in _steps(node, step)), default=-120.0
    )
    level = tail_level(free, ringing, end, step) - loudest
    if level <= limit:
        return
    yield Finding(
        "tail", max(owner.start, end - step), end + fade,
        f"The tail of “{owner.label}” is cut off",
        f"It ends {-level:.0f} dB below its loudest, while it is still heard; left alone it would "
        f"ring for {node.plan.natural_tail / survey.rate:.1f} s.",
        min(1.0, 0.5 + (level - limit) / 40.0), owner.name, owner.track_id,
        Cure("Let it ring out", (command,)),
    )  # fmt: skip


def _steps(node: TreatedNode, step: int) -> range:
    """A few places within the span, however long it is."""
    length = max(step, node.plan.length)
    return range(max(0, node.start), node.start + length, max(step, length // 200))


def _beyond_picture(survey: Survey) -> Iterator[Finding]:
    """A film ends with its picture: what rings on is lost in it."""
    end = max((c.start + c.length for c in survey.reel.picture.clips), default=0)
    step = round(STEP_SECONDS * survey.rate)
    if not end or survey.length - end < BEYOND_SECONDS * survey.rate:
        return
    level = level_of(survey.sound(end, end + step))
    if level <= PICTURE_DBFS:
        return
    ringing = [
        r.owner for r in ringing_at(survey, end, -120.0) if r.owner.name.startswith("treatment:")
    ]
    cure = None
    if ringing:
        cure = Cure(
            "Fade the tails out by the picture’s end",
            tuple(
                {"kind": "set_chain", "owner": o.name, "ring_out": end - o.stop} for o in ringing
            ),
        )
    yield Finding(
        "tail", end, survey.length,
        "Sound goes on after the picture has ended",
        f"At the picture’s last frame it still stands at {level:.0f} dBFS, and goes on for "
        f"{(survey.length - end) / survey.rate:.1f} s, which a film with this picture cuts off.",
        0.7, "reel", cure=cure, part="picture",
    )  # fmt: skip


CHECK = Check(
    "tail", "Tails cut off",
    "A reverb or echo that stops short is heard as a cut. Ring-out “auto” lets it fade by itself.",
    find, (HEARD,), 40,
)  # fmt: skip
