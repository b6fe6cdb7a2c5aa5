"""What several classes have alike: fields that their constructors set in the same way, and methods."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.members import Members, Mentions, lone_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Parameter, ParameterKind, Statement
from aedifex.program.structure.plain_text import PlainText
from aedifex.source.text import Span


@dataclass(frozen=True)
class PlainField:
    """A field that a constructor sets to a parameter of the same name, or to a value that is written out.

    `value` is the text of that value; empty where it is the `parameter`.
    """

    name: str
    statement: Statement
    value: str
    parameter: str = ""


class PlainClass:
    """A class that inherits nothing, from which what it shares with others could be taken."""

    def __init__(self, program: Program, module: Module, scope: Scope) -> None:
        self.module = module
        self.scope = scope
        self.members = Members(Mentions.of(program), module, scope)
        self.text = PlainText.of(module)

    @property
    def name(self) -> str:
        """The class's name."""
        return self.scope.name

    @property
    def is_plain(self) -> bool:
        """Whether nothing is inherited, and it has a constructor of its own like any other."""
        constructor = self.members.constructor
        receiver = constructor.receiver if constructor is not None else None
        is_usual = receiver is not None and receiver.name == self.module.dialect.writer.receiver
        return self.members.is_plain and is_usual and constructor is not None and not constructor.statement.decorators

    @property
    def parameters(self) -> list[Parameter]:
        """What the constructor is given, the object excepted."""
        constructor = self.members.constructor
        found = constructor.parameters if constructor is not None else []
        return [p for p in found if constructor is None or p.reference.symbol is not constructor.receiver]

    @cached_property
    def fields(self) -> dict[str, PlainField]:
        """The fields that the first statements of the constructor set plainly, in the order of the text."""
        constructor = self.members.constructor
        found: dict[str, PlainField] = {}
        for statement in constructor.body.statements if constructor is not None else ():
            if statement.is_text:
                continue
            plain = self._plain(statement)
            if plain is None:
                break
            found[plain.name] = plain
        return found

    def _plain(self, statement: Statement) -> PlainField | None:
        constructor = self.members.constructor
        own = (r for r in statement.references if constructor is not None and r.symbol is constructor.receiver)
        target = next((reference for reference in own if len(reference.path) == 1), None)
        value = lone_value(target) if target is not None else None
        is_annotated = statement.assignment is not None and statement.assignment.annotation is not None
        if target is None or value is None or statement.calls or is_annotated:
            return None
        name = target.path[0].name or ""
        inside = self.module.references_within(value.span)
        sealed = self.module.dialect.naming.sealed
        given = [
            p for p in self.parameters if name in (p.name, sealed(p.name)) and len(p.reference.symbol.references) == 2
        ]
        if (
            len(inside) == 1
            and inside[0].span == value.span
            and any(p.reference.symbol is inside[0].symbol for p in given)
        ):
            return PlainField(name, statement, "", inside[0].name)
        return PlainField(name, statement, self.module.source.slice(value.span)) if not inside else None

    @cached_property
    def methods(self) -> dict[str, Function]:
        """Its plain methods by name, the constructor and those with a meaning of their own excepted."""
        rules = self.module.dialect.rules
        return {
            function.name: function
            for function in self.members.functions
            if function.statement.block.owner is self.members.statement
            and function.receiver is not None
            and not function.statement.decorators
            and not rules.has_meaning(function.name)
            and all(p.kind is ParameterKind.PLAIN and p.default is None for p in function.parameters)
        }

    def body(self, name: str) -> str:
        """The text of a method, without comments and margin."""
        return self.text.of_statement(self.methods[name].statement)

    def takes(self, name: str) -> list[str]:
        """The parameters of a method."""
        return [parameter.name for parameter in self.methods[name].parameters]


def shared_fields(classes: Sequence[PlainClass]) -> list[str]:
    """The fields that all of some classes set plainly, in the order of the first."""
    first, *others = classes
    return [name for name in first.fields if all(name in other.fields for other in others)]


def same_value(classes: Sequence[PlainClass], name: str) -> str:
    """The value that all of some classes write out for a field; empty where they differ, or take it as a parameter."""
    values = {each.fields[name].value for each in classes}
    return values.pop() if len(values) == 1 else ""


def shared_methods(classes: Sequence[PlainClass]) -> list[str]:
    """The methods that all of some classes have, with the same parameters."""
    first, *others = classes
    return [
        name
        for name in first.methods
        if all(name in other.methods and other.takes(name) == first.takes(name) for other in others)
    ]


def equal_methods(classes: Sequence[PlainClass]) -> list[str]:
    """Those of the shared methods that are written alike."""
    return [name for name in shared_methods(classes) if len({each.body(name) for each in classes}) == 1]


def plain_classes(program: Program, module: Module) -> list[PlainClass]:
    """The classes of a file from which something could be taken."""
    found = (PlainClass(program, module, scope) for scope in module.classes)
    return [each for each in found if each.is_plain]


def header(each: PlainClass) -> str:
    """The text between a class's name and its body."""
    statement = each.members.statement
    named = next(r for r in statement.references if r.binds)
    return each.module.source.slice(Span(named.end, statement.header_end))
