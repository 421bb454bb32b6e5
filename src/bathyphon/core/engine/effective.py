"""What a parameter really is while its treatment sets in and lets go."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.engine.plan import Plan

Places = NDArray[np.int64]


def effective_strength(plan: Plan, places: Places) -> Floats:
    """Percent to which a treatment is engaged: its strength curve times its ramps.

    Parameters
    ----------
    plan : Plan
    places : ndarray of int64, shape (n,)
        Samples from the owner's start.

    Returns
    -------
    ndarray of float64, shape (n,)
    """
    return np.array([100.0 * plan.depth(int(at), 1)[0] for at in places])


def effective_values(plan: Plan, effect: str, parameter: str, places: Places) -> Floats | None:
    """Values of a parameter on its way between neutral and what is set.

    Parameters
    ----------
    plan : Plan
    effect : str
        Id of an effect of the chain.
    parameter : str
        Its name in :class:`~bathyphon.core.effects.kit.settings.Settings`.
    places : ndarray of int64, shape (n,)
        Samples from the owner's start.

    Returns
    -------
    ndarray of float64, shape (n,), or None
        ``None`` where the strength does not move the value: in effects that are mixed in or sent
        to, and after the chain's first ``send`` (engine rules, 1).
    """
    index = next((i for i, link in enumerate(plan.links) if link.id == effect), None)
    if index is None or index >= plan.first_send:
        return None
    link = plan.links[index]
    if link.effect.engages != "sweep":
        return None
    row = link.effect.parameter(parameter)
    if row is None or row.neutral is None:
        return None
    found = np.empty(places.size)
    for k, place in enumerate(places):
        at = int(place)
        depth = plan.depth(at, 1)
        if link.effect.strength:
            depth = depth * (link.settings.values(link.effect.strength, at, 1) / 100.0)
        found[k] = swept(link.effect.table, link.settings, parameter, at, depth)[0]
    return found
