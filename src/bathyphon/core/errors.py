"""The one exception that carries a sentence for the user."""


class Refused(ValueError):
    """Input that cannot be accepted, with one sentence that says what would be right.

    Parameters
    ----------
    message : str
        What is wrong and what would be right.
    where : str
        The path of the fault, for example ``tracks.0.clips.2.length``; empty if there is none.
    """

    def __init__(self, message: str, where: str = "") -> None:
        super().__init__(f"{where}: {message}" if where else message)
        self.message = message
        self.where = where
