"""aedifex step part"""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.stepping import named, preview_option, script_argument, take_step

if TYPE_CHECKING:
    from aedifex.moves.part import Part
    from aedifex.program.model.program import Program


@click.command(short_help="A class that does several jobs becomes several classes.")
@script_argument
@click.argument("class_name", metavar="CLASS")
@click.argument("members", nargs=-1, metavar="[MEMBER[=NEW]]...")
@click.option("--into", metavar="NAME", help="The new class; without it, the jobs of the class are looked for.")
@click.option("--object", "instance", metavar="FIELD", help="The field that keeps its object.")
@preview_option
def command(
    script: Path, class_name: str, members: tuple[str, ...], into: str | None, instance: str | None, preview: bool
) -> None:
    """Give some members of a class a class of their own; the first class keeps one object of it.

    \b
    Examples:
      aedifex step part harbour.py Harbour --preview
      aedifex step part harbour.py Harbour tide_level=level turn_tide=turn --into Tide
    """
    if bool(members) != bool(into):
        raise click.UsageError("name both: the members that go, and --into their class")
    pairs = [named(text) for text in members]

    def moves(program: Program) -> list[Part]:
        from aedifex.construction.parting import parts_of
        from aedifex.moves.part import Part, PartMember

        if into is None:
            return parts_of(program, class_name)
        chosen = tuple(PartMember(old, new) for old, new in pairs)
        return [Part(script, class_name, into, instance or into.lower(), chosen)]

    take_step(script, preview, "step part", moves)
