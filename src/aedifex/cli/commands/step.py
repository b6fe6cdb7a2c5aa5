"""aedifex step"""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step

if TYPE_CHECKING:
    from aedifex.moves.kit.description import Description, StepParameter


class Steps(click.Group):
    """A group whose commands are the moves that can be made by hand, as each describes itself."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        """The moves in the order in which people make them."""
        from aedifex.moves.registry import by_hand

        return list(by_hand())

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        """The command for the move of that name."""
        from aedifex.moves.registry import description_of

        description = description_of(cmd_name)
        is_made_by_hand = description is not None and description.make is not None
        return _command_of(description) if description is not None and is_made_by_hand else None


@click.command(cls=Steps, invoke_without_command=True, short_help="One move by hand, in place.")
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
        from aedifex.moves.registry import by_hand

        width = max(map(len, by_hand())) + 2
        for description in by_hand().values():
            first, second = description.summary.split("\n")
            click.echo(f"{description.name:<{width}}{first}\n{'':<{width}}{second}")
    elif ctx.invoked_subcommand is None:
        raise click.UsageError("name a move; `aedifex step --list` describes them", ctx)


def _command_of(description: Description) -> click.Command:
    """The command that makes a move by hand, with the parameters that the move says it needs."""

    def callback(script: Path, preview: bool, **given: Any) -> None:
        assert description.make is not None
        make = description.make
        take_step(script, preview, f"step {description.name}", lambda program: make(program, script, given))

    for parameter in (preview_option, *map(_parameter, reversed(description.parameters)), script_argument):
        callback = parameter(callback)
    return click.command(
        description.name,
        help=f"{description.help}\n\n\b\nExample:\n{_examples(description)}",
        short_help=description.summary.split("\n")[0],
    )(callback)


def _parameter(parameter: StepParameter) -> Any:
    from aedifex.moves.kit.description import Takes

    name, shown, takes = parameter.name, parameter.shown, parameter.takes
    if takes is Takes.ONE:
        return click.argument(name, metavar=shown)
    if takes in (Takes.MANY, Takes.ANY):
        return click.argument(name, nargs=-1, required=takes is Takes.MANY, metavar=shown)
    is_many, is_needed = takes is Takes.OPTIONS, takes is Takes.NEEDED
    return click.option(
        f"--{name}", name, multiple=is_many, required=is_needed, metavar=shown, help=parameter.what or None
    )


def _examples(description: Description) -> str:
    example = description.example
    words: Sequence[str] = [example.words] if example is not None and example.words else [""]
    return "\n".join(f"  aedifex step {description.name} harbour.py {word}".rstrip() for word in words)
