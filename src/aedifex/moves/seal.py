"""seal: fields that only their own class uses become private."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.member_names import rename_member, why_not_renamed
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.members import Members, Mention, Mentions
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span


@dataclass(frozen=True)
class Seal:
    """Make the fields private that nothing outside the classes uses; what outside code reads stays as it is."""

    name: ClassVar[str] = "seal"

    path: Path
    class_names: tuple[str, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        rewriting = Rewriting()
        mentions = Mentions.of(program)
        for name in self.class_names:
            statement, scope = class_of(module, name)
            members = Members(mentions, module, scope)
            fields = {field: module.dialect.naming.sealed(field) for field in sealable(members)}
            for field, sealed in fields.items():
                rename_member(rewriting, members, field, sealed)
            without = [sealed for field, sealed in fields.items() if field not in members.empty_fields]
            declared = list(filter(module.dialect.naming.is_declared, without))
            if declared:
                _declare(rewriting, module, statement, declared)
        return rewriting


def sealable(members: Members) -> list[str]:
    """The fields of a class that may become private."""
    naming = members.module.dialect.naming
    return [
        name
        for name in (*members.empty_fields, *members.fields)
        if not naming.is_sealed(name)
        and members.mentions(name)
        and all(mention.is_inside for mention in members.mentions(name))
        and why_not_renamed(members, name, naming.sealed(name)) is None
        and (not naming.is_declared(naming.sealed(name)) or all(map(_is_plain_access, members.mentions(name))))
    ]


def _is_plain_access(mention: Mention) -> bool:
    """Whether a member is asked for by a dot, and stays there."""
    named = mention.access.end - len((mention.access.name or "").encode())
    is_dotted = mention.module.source.data[named - 1 : named] == b"."
    return is_dotted and mention.reference.path_mode is not Mode.DELETE


def _declare(rewriting: Rewriting, module: Module, home: Statement, names: Sequence[str]) -> None:
    """Let a class declare members, above all that it has."""
    layout, writer = Layout.of(module), module.dialect.writer
    first = home.blocks[0].statements[0]
    margin, lines = layout.margin(first), layout.lines(first)
    declared = [f"{margin}{writer.field_declared(name)}\n" for name in names]
    gap = [] if first.kind in (Kind.ASSIGN, Kind.DECLARE) else ["\n"]
    rewriting.changes.replace(module.path, Span(lines.start, lines.start), *declared, *gap)


def _by_hand(program: Program, script: Path, given: Given) -> list[Seal]:
    return [Seal(script, tuple(given["classes"]))]


MOVE = Description(
    name="seal",
    place=110,
    summary=(
        "Fields that only their own class uses get a private name.\n"
        "Fields that other code reads stay public, and so does what may be reached unseen."
    ),
    term="Encapsulate Field",
    help="Give fields that nothing outside their class uses a private name.",
    parameters=(StepParameter("classes", Takes.MANY, "CLASS..."),),
    make=_by_hand,
    example=Example(
        language="python",
        words="Tide",
        before="""\
class Tide:
    def __init__(self):
        self.level = 0
        self.direction = 1

    def move(self):
        self.level += self.direction


tide = Tide()
tide.move()
print(tide.level)
""",
        after={
            "harbour.py": """\
class Tide:
    def __init__(self):
        self.level = 0
        self._direction = 1

    def move(self):
        self.level += self._direction


tide = Tide()
tide.move()
print(tide.level)
""",
        },
    ),
)
