"""How figures are written in what people read."""

from __future__ import annotations


def signed(value: float, digits: int = 1) -> str:
    """A figure with its sign, as it is printed; what is rounded away has none.

    Parameters
    ----------
    value : float
    digits : int
        Behind the point.

    Examples
    --------
    >>> signed(2), signed(-2.54), signed(-0.04), signed(-20, 0)
    ('+2.0', '−2.5', '0.0', '−20')
    """
    text = f"{value:+.{digits}f}".replace("-", "−")
    return text if float(f"{value:.{digits}f}") else text[1:]
