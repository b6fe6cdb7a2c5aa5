"""Going through a draft in the terminal, class by class."""

from __future__ import annotations

import textwrap
from collections.abc import Callable
from typing import TYPE_CHECKING

import click

from aedifex.cli.screen import WIDEST, screen
from aedifex.cli.words import in_words
from aedifex.source.errors import AedifexError

if TYPE_CHECKING:
    from aedifex.design.document.design import ClassPlan, Design, KindPlan
    from aedifex.program.model.program import Program

_HELP = """\
  accept                    keep the class as it is, and go on
  name NEW                  give it another name
  merge OTHER               take in another class
  split NEW MEMBER…         make a class of some of its members
  move MEMBER CLASS         give a member to another class, or to `owner`
  drop                      let the owner have all of it
  done                      accept all that is left"""


_KIND_HELP = """\
  accept                    make it a class with several objects
  name NEW                  give the class another name
  drop                      leave these things as they are stored
  done                      accept all that is left"""


def ask_about_kinds(program: Program, design: Design, grain: str) -> Design:
    """Let the user say which kinds of things become classes; what is left is drafted anew where one does not.

    Raises:
        Abort: the user stops.
    """
    from aedifex.construction.kinds import made_of
    from aedifex.construction.propose import propose

    dropped: list[frozenset[str]] = []
    done: set[frozenset[str]] = set()
    if design.kinds:
        click.echo(f"For each kind of things: accept, name, drop, done; ? explains.\n{_KIND_HELP}")
    while (plan := next((p for p in design.kinds if made_of(p) not in done), None)) is not None:
        _show(plan)
        word, *rest = click.prompt("  what now", default="accept").split()
        if word == "accept":
            done.add(made_of(plan))
        elif word == "done":
            break
        elif word == "drop" and not rest:
            dropped.append(made_of(plan))
            design = propose(program, grain, dropped)
        elif word == "name" and len(rest) == 1:
            plan.name, old = rest[0], plan.name
            try:
                _check(program, design)
            except AedifexError as error:
                plan.name = old
                click.echo(f"  Not done. {in_words(error).partition(chr(10) + 'Refused')[0]}")
        else:
            click.echo(_KIND_HELP if word == "?" else f"  `{word}` is not understood; ? explains.")
    return design


def ask(program: Program, design: Design) -> Design:
    """Let the user change a design, and show what each change does to the measures.

    Raises:
        Abort: the user stops.
    """
    done: set[str] = set()
    click.echo(f"For each class: accept, name, merge, split, move, drop, done; ? explains.\n{_HELP}")
    while (plan := next((p for p in design.classes if p.name not in done), None)) is not None:
        _show(plan)
        answer = click.prompt("  what now", default="accept").split()
        word, rest = answer[0], answer[1:]
        if word == "accept":
            done.add(plan.name)
        elif word == "done":
            break
        elif word == "?":
            click.echo(_HELP)
        else:
            design = _changed(program, design, plan, word, rest, done)
    return design


def _changed(program: Program, design: Design, plan: ClassPlan, word: str, rest: list[str], done: set[str]) -> Design:
    change = _change(design, plan, word, rest, program)
    if change is None:
        click.echo(f"  `{' '.join([word, *rest])}` is not understood; ? explains.")
        return design
    try:
        made = change()
        _check(program, made)
    except AedifexError as error:
        click.echo(f"  Not done. {in_words(error).partition(chr(10) + 'Refused')[0]}")
        return design
    _show_effect(program, design, made)
    done.intersection_update(p.name for p in made.classes)
    return made


def _change(
    design: Design, plan: ClassPlan, word: str, rest: list[str], program: Program
) -> Callable[[], Design] | None:

    from aedifex.design.document import revising

    dialect = program.dialect
    if word == "name" and len(rest) == 1:
        return lambda: revising.renamed(design, plan.name, rest[0], dialect)
    if word == "merge" and len(rest) == 1:
        return lambda: revising.merged(design, plan.name, rest[0])
    if word == "split" and len(rest) > 1:
        return lambda: revising.split(design, plan.name, rest[1:], rest[0], dialect)
    if word == "move" and len(rest) == 2:
        return lambda: revising.moved(design, plan.name, rest[0], None if rest[1] == "owner" else rest[1])
    if word == "drop" and not rest:
        return lambda: revising.dropped(design, plan.name)
    return None


def _check(program: Program, design: Design) -> None:
    """See that the design can be carried out.

    Raises:
        AedifexError: it cannot.
    """
    from aedifex.construction.build import build

    build(program, design)


def _show(plan: ClassPlan | KindPlan) -> None:
    fields = ", ".join(field.name for field in plan.fields)
    methods = ", ".join(f"{name}()" for name in plan.method_names) or "no methods"
    lines = [f"{plan.name}: {fields}; {methods}", plan.why]
    if plan.second:
        lines.append(f"other names: {', '.join(plan.second)}")
    click.echo()
    for number, line in enumerate(lines):
        margin = "  " if number else ""
        click.echo(textwrap.fill(line, WIDEST, initial_indent=margin, subsequent_indent=margin + "  "))


def _show_effect(program: Program, before: Design, after: Design) -> None:
    from aedifex.construction.build import build
    from aedifex.design.drafting.outcome import measures_after
    from aedifex.report.measure_tables import before_and_after

    try:
        figures = [measures_after(program, design, build(program, design).program) for design in (before, after)]
    except AedifexError as error:
        click.echo(f"This could not be built: {error.reason}")
    else:
        screen().print(before_and_after(*figures))
