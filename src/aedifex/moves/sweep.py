"""sweep: what nothing uses any more goes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.member_names import is_seen_whole
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import idle_declarations
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.members import Members, Mention, Mentions
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Shape, Statement
from aedifex.program.structure.imports import stores_objects
from aedifex.program.structure.obstacles import hindrance_obstacles, is_bound_again


@dataclass(frozen=True)
class Sweep:
    """Take away functions, imports, fields and scope declarations without a use.

    An import goes only where it is of the language's own library, which importing does not notice.
    """

    name: ClassVar[str] = "sweep"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Sweeping(program, module_of(program, self.path)).plan()


class _Sweeping(Planner):
    def __init__(self, program: Program, module: Module) -> None:
        super().__init__(module)
        self.program = program
        self.gone: list[Statement] = []

    def write(self) -> None:
        self.gone = self.idle_functions()
        for statement in self.gone:
            self.rewriter.remove(self.layout.lines(statement))
        self.rewriter.drop(r for r in self.module.references if self.is_gone(r))
        self.drop_imports()
        for routine in self.module.routines:
            idle = [r for r in idle_declarations(routine.scope) if not self.is_gone(r)]
            for reference in idle:
                self.rewriter.drop_declaration(reference)
        self.drop_fields()

    def is_gone(self, reference: Reference) -> bool:
        return _lies_in(reference, self.gone)

    def may_go(self, symbol: Symbol) -> bool:
        """Whether nobody could reach a name without naming it."""
        rules, name = self.dialect.rules, symbol.name
        if hindrance_obstacles(self.module, [name]) or rules.has_meaning(name) or self.is_open:
            return False
        return not rules.is_handed_out(self.module, name) and name not in self.module.found_by_name

    @cached_property
    def is_open(self) -> bool:
        """Whether code that is not here may use any name of the file."""
        files = self.dialect.files
        is_alone = files.shares_names(self.module) and not files.takes_class_files(self.program)
        return self.module.is_left_to_others or is_alone

    # -- functions

    def idle_functions(self) -> list[Statement]:
        """Top-level functions that nothing refers to but one another: the largest such set."""
        idle = {
            function.statement: function.symbol
            for function in self.module.functions
            if self.is_plain(function.statement)
            and not is_bound_again(function.symbol)
            and function.name != self.dialect.rules.entry
            and self.may_go(function.symbol)
        }
        while True:
            left = {s: symbol for s, symbol in idle.items() if all(_lies_in(r, idle) for r in symbol.references)}
            if len(left) == len(idle):
                return list(idle)
            idle = left

    def is_plain(self, statement: Statement) -> bool:
        """Whether making the function does nothing else, and it stands alone in its block's company."""
        at_the_top = statement.block.owner is None
        return at_the_top and not statement.decorators and not statement.calls and self.layout.stands_alone(statement)

    # -- imports

    def drop_imports(self) -> None:
        for statement in self.module.walk():
            if statement.kind is not Kind.IMPORT or not self.layout.stands_alone(statement):
                continue
            names = [r for r in statement.references if r.form is Form.IMPORT]
            idle = [r for r in names if self.is_idle_import(r)]
            if names and len(idle) == len(names) and len(statement.block.statements) > 1:
                self.rewriter.drop(statement.references)
                self.rewriter.remove(self.layout.own_lines(statement))
            elif idle:
                self.rewriter.shorten_import(statement, idle)

    def is_idle_import(self, reference: Reference) -> bool:
        symbol = reference.symbol
        if symbol.imported is None or not self.dialect.library.is_module(symbol.imported.module):
            return False
        if symbol.target is not None or len(symbol.bindings) != 1 or not self.may_go(symbol):
            return False
        return all(other is reference or self.is_gone(other) for other in symbol.references)

    # -- fields

    def drop_fields(self) -> None:
        mentions = Mentions.of(self.program)
        for scope in self.module.scope.children:
            if scope.kind is not ScopeKind.CLASS:
                continue
            members = Members(mentions, self.module, scope)
            idle = [name for name in members.fields if self.is_idle_field(members, name)]
            self.drop_statements(m for name in idle for m in members.mentions(name))

    def is_idle_field(self, members: Members, name: str) -> bool:
        """Whether a field only ever gets plain values, each by a statement of its own that can go."""
        return (
            members.is_plain
            and not is_seen_whole(members)
            and name not in members.methods
            and members.strangers(name) == 0
            and not members.all.are_looked_up_by_text
            and not self.is_watched(members)
            and all(m.is_inside and m.is_write and self.is_plain_setting(m) for m in members.mentions(name))
        )

    def is_watched(self, members: Members) -> bool:
        """Whether setting a field, or storing the object, may do more than that."""
        rules = self.dialect.rules
        named = [s.name for s in members.scope.symbols.values() if s.bindings and s.name != rules.constructor]
        return any(map(rules.customises_access, named)) or stores_objects(self.module)

    def is_plain_setting(self, mention: Mention) -> bool:
        statement = mention.reference.statement
        if statement is None or statement.kind is not Kind.ASSIGN or statement.assignment is None:
            return False
        value = statement.assignment.value
        return (
            len(statement.assignment.targets) == 1
            and statement.assignment.targets[0] == (mention.reference.start, mention.access.end)
            and value is not None
            and value.shape is Shape.LITERAL
            and self.layout.stands_alone(statement)
        )

    def drop_statements(self, mentions: Iterable[Mention]) -> None:
        for mention in mentions:
            statement = mention.reference.statement
            assert statement is not None
            self.rewriter.drop(statement.references)
            if any(other not in self.gone and other is not statement for other in statement.block.statements):
                self.gone.append(statement)
                self.rewriter.remove(self.layout.lines(statement))
            else:
                self.rewriting.changes.replace(self.module.path, statement.span, self.writer.nothing())


def _lies_in(reference: Reference, statements: Iterable[Statement]) -> bool:
    return any(s.start <= reference.start < s.end for s in statements)


def _by_hand(program: Program, script: Path, given: Given) -> list[Sweep]:
    return [Sweep(script)]


MOVE = Description(
    name="sweep",
    place=130,
    summary=(
        "Functions, imports, fields and scope declarations that nothing uses go away.\n"
        "What another file, a text or a registration may still reach stays."
    ),
    term="Remove Dead Code",
    help="Take away functions, imports, fields and scope declarations that nothing uses.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
import random
import sys


def unused():
    return random.random()


print("tide", file=sys.stdout)
""",
        after={
            "harbour.py": """\
import sys


print("tide", file=sys.stdout)
""",
        },
    ),
)
