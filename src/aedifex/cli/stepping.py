"""What the commands of `aedifex step` share."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import nullcontext
from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.journal import journal, tell
from aedifex.cli.reading import read_program_of

if TYPE_CHECKING:
    from aedifex.moves.kit.move import Move
    from aedifex.program.model.program import Program

script_argument = click.argument("script", type=click.Path(path_type=Path))
preview_option = click.option("--preview", is_flag=True, help="Show the difference and write nothing.")


def take_step(script: Path, preview: bool, what: str, moves: Callable[[Program], Sequence[Move]]) -> None:
    """Read a script, make the moves that `moves` says for it, and write the result in place.

    Raises:
        AedifexError: the script cannot be read, a move is refused, or the result cannot be written.
    """
    from aedifex.construction.in_place import rewrite
    from aedifex.construction.step import step
    from aedifex.report.difference import difference

    with nullcontext() if preview else journal(script.parent) as history:
        program = read_program_of(script)
        after = step(program, moves(program))
        if history is None:
            click.echo(difference(program, after) or "Nothing to change.\n", nl=False)
        else:
            tell(rewrite(history, program, after, f"{what} {script.name}"), script.parent)


def named(text: str) -> tuple[str, str]:
    """`OLD=NEW` in two; the same twice where no new name is given."""
    old, equals, new = text.partition("=")
    if not old or (equals and not new):
        raise click.UsageError(f"`{text}` is not NAME or NAME=NEW_NAME")
    return old, new or old
