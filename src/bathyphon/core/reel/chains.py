"""The chains of a reel, and what they name."""

from __future__ import annotations

from collections.abc import Iterator

from bathyphon.core.reel.model import Chain, Reel, Track
from bathyphon.core.reel.values import effect_of


def chains(reel: Reel) -> Iterator[tuple[str, Chain]]:
    """Every chain of a reel with its path in the document."""
    for t, track in enumerate(reel.tracks):
        for c, clip in enumerate(track.clips):
            yield f"tracks.{t}.clips.{c}.treatment", clip.treatment
        for f, treatment in enumerate(track.treatments):
            yield f"tracks.{t}.treatments.{f}", treatment
        yield f"tracks.{t}.treatment", track.treatment
    yield "mix.treatment", reel.mix.treatment


def references(chain: Chain, to: str) -> Iterator[str]:
    """Ids of the tracks or media that the effects of a chain name."""
    for part in chain.effects:
        reference = effect_of(part).reference
        if reference and reference.to == to and part.params.get(reference.id):
            yield str(part.params[reference.id])


def used_media(reel: Reel) -> set[str]:
    """Ids of the media that are heard, and of those that effects work with."""
    clips = {clip.media for track in reel.tracks for clip in track.clips if clip.enabled}
    return clips | {id for _, chain in chains(reel) for id in references(chain, "media")}


def listened_to(track: Track) -> set[str]:
    """Ids of the tracks that a track listens to."""
    chains = (*(c.treatment for c in track.clips), *track.treatments, track.treatment)
    return {id for chain in chains for id in references(chain, "track")}
