"""Commands that are found by looking into a folder: one file each, loaded only when it is called."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Sequence
from types import ModuleType
from typing import Any

import click


class Found(click.Group):
    """A group whose commands stand in the files of a package, each as `command`.

    `order` names those that come first in the help.
    """

    def __init__(self, *args: Any, package: ModuleType, order: Sequence[str] = (), **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.package = package
        self.order = list(order)

    def list_commands(self, ctx: click.Context) -> list[str]:
        """The commands in their order."""
        names = [module.name for module in pkgutil.iter_modules(self.package.__path__)]
        return sorted(names, key=lambda name: (self.order.index(name) if name in self.order else len(names), name))

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        """The command of that name."""
        if cmd_name not in self.list_commands(ctx):
            return None
        found: click.Command = importlib.import_module(f"{self.package.__name__}.{cmd_name}").command
        return found
