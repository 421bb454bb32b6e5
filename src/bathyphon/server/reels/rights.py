"""Who may do what with a reel that they see."""

from __future__ import annotations

from django.contrib.auth.models import User

from bathyphon.server.reels.models import Membership, Reel


class NotAllowed(Exception):
    """Somebody sees a reel and may not do this with it; with one sentence."""


def let_change(account: User, reel: Reel) -> None:
    """Let an account change a reel.

    Raises
    ------
    NotAllowed
        If it may only look at it.
    """
    if _role(account, reel) not in (Membership.OWNER, Membership.EDITOR):
        raise NotAllowed("You can look at this reel and listen to it, but not change it.")


def let_own(account: User, reel: Reel) -> None:
    """Let an account throw a reel away.

    Raises
    ------
    NotAllowed
        If it is somebody else's.
    """
    if _role(account, reel) != Membership.OWNER:
        raise NotAllowed("Only its owner can put this reel into the trash.")


def _role(account: User, reel: Reel) -> str | None:
    return (
        Membership.objects.filter(account=account, reel=reel).values_list("role", flat=True).get()
    )
