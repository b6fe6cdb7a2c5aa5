"""aedifex step"""

from __future__ import annotations

import importlib
import inspect

import click

from aedifex.cli import steps
from aedifex.cli.found import Found

_ORDER = (
    "form",
    "carve",
    "name_callback",
    "inject",
    "supply",
    "adopt",
    "lift",
    "part",
    "streams",
    "house",
    "seal",
    "rename",
    "sweep",
)


@click.command(
    cls=Found,
    package=steps,
    order=_ORDER,
    invoke_without_command=True,
    short_help="One move by hand, in place.",
)
@click.option("--list", "is_list", is_flag=True, help="Say what each move does.")
@click.pass_context
def command(ctx: click.Context, is_list: bool) -> None:
    """Make one move by hand, for those who work in small steps.

    The script is rewritten in place, with a journal: `aedifex undo` takes a step back. --preview only looks.

    \b
    Example:
      aedifex step --list
      aedifex step rename harbour.py Ferry.x Ferry.position --preview
    """
    if is_list:
        group = ctx.command
        assert isinstance(group, click.Group)
        names = group.list_commands(ctx)
        width = max(map(len, names)) + 2
        for name in names:
            first, second = _summary(name).split("\n")
            click.echo(f"{name:<{width}}{first}\n{'':<{width}}{second}")
    elif ctx.invoked_subcommand is None:
        raise click.UsageError("name a move; `aedifex step --list` describes them", ctx)


def _summary(name: str) -> str:
    """What the move of this name says of itself."""
    module = importlib.import_module(f"aedifex.moves.{name}")
    moves = (member for _, member in inspect.getmembers(module, inspect.isclass))
    return next(str(vars(move)["summary"]) for move in moves if vars(move).get("name") == name)
