"""aedifex step form"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import named, preview_option, script_argument, take_step


@click.command(short_help="Variables become the fields of a class.")
@script_argument
@click.argument("variables", nargs=-1, required=True, metavar="VARIABLE[=FIELD]...")
@click.option("--class", "class_name", required=True, metavar="NAME", help="The class.")
@click.option("--object", "instance", metavar="NAME", help="The variable that will hold the object.")
@click.option("--argument", "arguments", multiple=True, metavar="VARIABLE", help="Pass its first value in.")
@preview_option
def command(
    script: Path,
    variables: tuple[str, ...],
    class_name: str,
    instance: str | None,
    arguments: tuple[str, ...],
    preview: bool,
) -> None:
    """Gather variables into a class with one object.

    \b
    Example:
      aedifex step form ferry.py ferry_x=x ferry_load=load --class Ferry --argument ferry_x
    """
    from aedifex.moves.form import Form, NewField

    pairs = [named(text) for text in variables]
    unknown = set(arguments) - {variable for variable, _ in pairs}
    if unknown:
        raise click.UsageError(f"--argument {min(unknown)} is not among the variables")
    fields = tuple(NewField(variable, name, variable in arguments) for variable, name in pairs)
    take_step(
        script,
        preview,
        "step form",
        lambda _: [Form(script, class_name, instance or class_name.lower(), fields)],
    )
