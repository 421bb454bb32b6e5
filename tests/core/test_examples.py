"""The examples in docstrings are true."""

import doctest
from importlib import import_module
from pkgutil import walk_packages

from bathyphon import core


def test_every_example_gives_what_it_says():
    failed = tried = 0
    for module in walk_packages(core.__path__, f"{core.__name__}."):
        found = doctest.testmod(import_module(module.name))
        failed += found.failed
        tried += found.attempted
    assert failed == 0
    assert tried >= 20
