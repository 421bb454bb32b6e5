"""The commands that change a reel. Each addresses things by id and plans its own patch.

A module of this folder is found by itself, and so is every command in it.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules
from typing import Annotated, Any, Union

from pydantic import Field, TypeAdapter, ValidationError

from bathyphon.core.edits.command import EditCommand
from bathyphon.core.unread import cannot_read

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")

Command = EditCommand
COMMANDS: tuple[type[EditCommand], ...] = tuple(
    sorted(EditCommand.__subclasses__(), key=lambda command: command.__name__)
)
_ANY: Any = Union[COMMANDS]  # noqa: UP007 - known only now
_ADAPTER: TypeAdapter[EditCommand] = TypeAdapter(Annotated[_ANY, Field(discriminator="kind")])


def parse_command(data: Any) -> Command:
    """Read a command from JSON.

    Raises
    ------
    Refused
        In one sentence, if it is no command.
    """
    try:
        return _ADAPTER.validate_python(data)
    except ValidationError as error:
        raise cannot_read(error, "this edit", kinds=1) from None
