"""The file of a sound that is computed: which model, with which settings, how long."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from bathyphon.core.errors import Refused
from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.unread import cannot_read

FORMAT = "bathyphon-sound"
LONGEST_S = 8 * 3600.0


class Made(BaseModel):
    """A computed sound: all that its samples depend on.

    Parameters
    ----------
    model : str
        Id of a model.
    model_version : int
        Of the model that it was made with.
    settings : dict
        Values by the parameters' ids; what is missing is at its default.
    seed : int
        Which take.
    seconds : float
        How long; of a hit no longer than it sounds.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    format: Literal["bathyphon-sound"] = "bathyphon-sound"
    version: Literal[1] = 1
    name: Annotated[str, Field(max_length=200)] = ""
    model: str
    model_version: int = 1
    settings: dict[str, float | str] = Field(default_factory=dict)
    seed: Annotated[int, Field(ge=0, lt=2**31)] = 1
    seconds: Annotated[float, Field(gt=0, le=LONGEST_S, allow_inf_nan=False)]

    @property
    def rate(self) -> int:
        """Samples a second."""
        return RATE

    @property
    def samples(self) -> int:
        """Samples at the rate at which it is computed."""
        return max(1, round(self.seconds * RATE))


def read_made(document: Any) -> Made:
    """Read and check a computed sound.

    Raises
    ------
    Refused
        If it is none, names a model that is not there or one of a newer version.
    """
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise Refused("this is no computed sound")
    try:
        made = Made.model_validate(document)
    except ValidationError as error:
        raise cannot_read(error, "this sound") from None
    model = MODELS.get(made.model)
    if model is None:
        raise Refused(f"there is no model “{made.model}” here; the sound needs a newer version")
    if made.model_version > model.table.version:
        raise Refused(f"the sound was made with a newer version of {model.table.label}")
    model.settings(made.settings)
    return made


def make(
    model: str,
    settings: dict[str, Any],
    seed: int = 1,
    seconds: float | None = None,
    name: str = "",
) -> Made:
    """A computed sound, complete: a hit as long as it sounds, a bed as long as is asked for.

    Examples
    --------
    >>> make("rain", {"intensity": 80}, seconds=30).samples
    1440000
    """
    known = MODELS.get(model)
    if known is None:
        raise Refused(f"there is no model “{model}”", "model")
    values = known.settings(settings)
    if known.kind == "hit":
        seconds = known.seconds(values)
    return read_made({
        "format": FORMAT, "version": 1, "name": name, "model": model,
        "model_version": known.table.version, "settings": values, "seed": seed,
        "seconds": seconds or 60.0,
    })  # fmt: skip


def sound_of(made: Made) -> Iterator[NDArray[np.float32]]:
    """Its samples in order, float32 of shape (2, n), at 48 kHz."""
    from bathyphon.core.sounds.kit.levelled import blocks

    model = MODELS[made.model]
    return blocks(model, model.settings(made.settings), made.seed, made.samples)
