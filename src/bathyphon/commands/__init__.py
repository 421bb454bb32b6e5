"""What the commands of the command line do, one module each."""

from __future__ import annotations

from argparse import Namespace
from importlib import import_module
from typing import Any

Result = dict[str, Any]


def run(options: Namespace) -> Result:
    """Carry out a parsed command; the result holds ``lines`` for people and data for machines."""
    # Each command imports only what it needs: some of it takes seconds to load.
    module = import_module(f"bathyphon.commands.{options.command}")
    result: Result = module.run(options)
    return result
