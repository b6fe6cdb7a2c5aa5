"""Branches of a long chain, which asks what one text is: each can be a method with a name of its own."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence

from aedifex.design.dividing.object_blocks import ObjectBlock
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, ScopeKind
from aedifex.program.model.statements import Block, Function, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.kinds.objects import member_names
from aedifex.survey.words import singular, words_of

_FEWEST_CASES = 2
_LONG_CHAIN = 12
_FEWEST_LINES = 3
_INDEX = "index"
_DOING = "do"
_STEP = "/"
_WORD = re.compile(r"[A-Za-z][A-Za-z0-9]*")


def chain_branches(module: Module, scope: Scope) -> list[ObjectBlock]:
    """The branches of the methods of a class that could be methods of it, in the order of the text.

    Their chain is long, and asks in all conditions but one what one text is, or how it begins.
    """
    methods = (f for f in module.all_functions if f.symbol.scope is scope and f.is_method)
    return _of_one_name_each(block for method in methods for block in _Chains(module, method).find())


def path_branches(module: Module, functions: Iterable[Function]) -> list[ObjectBlock]:
    """The branches of functions that could be methods with them, where their chain asks for the path of a request."""
    return _of_one_name_each(b for function in functions for b in _Chains(module, function, only_paths=True).find())


def _of_one_name_each(blocks: Iterable[ObjectBlock]) -> list[ObjectBlock]:
    found = list(blocks)
    return [block for block in found if sum(other.names == block.names for other in found) == 1]


class _Chains:
    def __init__(self, module: Module, method: Function, *, only_paths: bool = False) -> None:
        self.module = module
        self.scope = method.symbol.scope
        self.method = method
        self.only_paths = only_paths
        self.surroundings = Surroundings.of(module)
        self.layout = Layout.of(module)

    def find(self) -> Iterator[ObjectBlock]:
        for statement in self.method.body.walk():
            cases = self.cases(statement)
            if len(cases) < _FEWEST_CASES or self.lines_of(statement) < _LONG_CHAIN:
                continue
            for block, text, begins in cases:
                name = self.name(text, begins=begins)
                if name and self.is_long(block) and all(map(self.layout.stands_alone, block.statements)):
                    first = self.module.source.line_of(block.statements[0].start)
                    last = self.module.source.lines_of(block.statements[-1].span)[1]
                    yield ObjectBlock(self.method.qualified_name, first, last, (name,))

    def lines_of(self, statement: Statement) -> int:
        first, last = self.module.source.lines_of(statement.span)
        return last - first + 1

    def is_long(self, block: Block) -> bool:
        return sum(map(self.lines_of, block.statements)) >= _FEWEST_LINES

    def cases(self, statement: Statement) -> Sequence[tuple[Block, str, bool]]:
        """The branches of a chain, each with the text that it asks for, and whether something only begins so."""
        cases = self.surroundings.cases(statement)
        asked = [(block, one) for block, test in cases if (one := self.asked(test)) is not None]
        if len({subject for _, (subject, _, _) in asked}) != 1 or len(asked) < len(cases) - 1:
            return ()
        return [(block, text, begins) for block, (_, text, begins) in asked]

    def asked(self, test: Expression) -> tuple[str, str, bool] | None:
        """What a condition asks, the plain text that it asks for, and whether it asks for its begin."""
        if test.sense is Sense.EITHER:
            return next(filter(None, map(self.asked, test.parts)), None)
        if test.is_equality:
            subject, wanted, begins = *test.parts, False
        elif test.sense is Sense.CALL and len(test.parts) == 2 and test.parts[0].sense is Sense.MEMBER:
            subject, wanted, begins = test.parts[0].parts[0], test.parts[1], True
        else:
            return None
        text = self.module.dialect.writer.text_value(self.module.source.slice(wanted.span))
        if wanted.sense is not Sense.CONSTANT or text is None or subject.sense not in (Sense.NAME, Sense.MEMBER):
            return None
        return self.module.source.slice(subject.span), text, begins

    def name(self, text: str, *, begins: bool) -> str:
        """A name for what is done with a text, after its words; empty where it has none, or the class has it."""
        naming, rules = self.module.dialect.naming, self.module.dialect.rules
        first, *rest = words_of(self.method.name)
        words = [word.lower() for word in _WORD.findall(text)]
        if begins and words and text[-1:] in "/:":
            words[-1] = singular(words[-1])
        if self.only_paths and not text.startswith(_STEP):
            return ""
        if first.lower() == _DOING and rest:
            words = [*(word.lower() for word in rest), *(words or [_INDEX])]
        elif text.startswith(_STEP):
            words = [first, *rest, *(words or [_INDEX])]
        elif not words or text.strip() != text or not text.replace(" ", "").isalpha():
            return ""
        name = naming.member_name(words)
        members = member_names(self.module, self.scope) if self.scope.kind is ScopeKind.CLASS else ()
        is_free = name not in members and name not in self.module.names_in_use and not rules.is_taken(name)
        return name if rules.is_name(name) and is_free else ""
