"""How a drawing says what it shows."""


def change(db: float) -> str:
    """A change of level with its sign, as it is printed: ``+3.0 dB``, ``−2.5 dB``, ``0.0 dB``.

    Parameters
    ----------
    db : float
        Decibels.
    """
    rounded = round(db, 1)
    # What is rounded away has no sign.
    return f"{rounded:+.1f} dB".replace("-", "−") if rounded else "0.0 dB"
