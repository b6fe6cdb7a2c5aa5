"""Branches of a chain that asks for the verb and the path of a request: each can be a method, named by both."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from aedifex.design.dividing.object_blocks import ObjectBlock
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Block, Function, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.handler_names import handler_words

_FEWEST = 3
_VERBS = frozenset("GET HEAD POST PUT PATCH DELETE".split())
_STEP = re.compile(r"[A-Za-z][\w-]*")
_ONE = "{id}"


@dataclass
class _Asked:
    """What a condition asks of a request: its verb, the steps of its path, and whether more steps follow."""

    verb: str = ""
    steps: tuple[str, ...] = ()
    goes_on: bool = False

    @property
    def path(self) -> str:
        return "/" + "/".join([*self.steps, *([_ONE] if self.goes_on else [])])


def request_branches(module: Module, functions: Iterable[Function]) -> list[ObjectBlock]:
    """The branches of some functions that could be methods, in the order of the text."""
    return [block for function in functions for block in _Chains(module, function).find()]


class _Chains:
    def __init__(self, module: Module, function: Function) -> None:
        self.module = module
        self.function = function
        self.surroundings = Surroundings.of(module)
        self.layout = Layout.of(module)

    def find(self) -> Iterator[ObjectBlock]:
        for statement in self.function.body.walk():
            cases = list(self.cases(statement))
            if len(cases) < _FEWEST or not all(asked.verb for _, asked in cases):
                continue
            names = [self.name(asked) for _, asked in cases]
            for (block, _), name in zip(cases, names, strict=True):
                if name and names.count(name) == 1 and all(map(self.layout.stands_alone, block.statements)):
                    first = self.module.source.line_of(block.statements[0].start)
                    last = self.module.source.lines_of(block.statements[-1].span)[1]
                    yield ObjectBlock(self.function.qualified_name, first, last, (name,))

    def cases(self, statement: Statement) -> Iterator[tuple[Block, _Asked]]:
        """The branches that ask for a path, each with what it asks."""
        for block, test in self.surroundings.cases(statement):
            asked = _Asked()
            self.gather(test, asked)
            if block.statements and (asked.steps or asked.path in self.compared(test)):
                yield block, asked

    def gather(self, test: Expression, asked: _Asked) -> None:
        """Note what a condition, or each side of it, asks."""
        if test.sense is Sense.EITHER:
            for part in test.parts:
                self.gather(part, asked)
            return
        subject, text = self.compared_with(test)
        if text in _VERBS:
            asked.verb = text
        elif text.startswith("/"):
            asked.steps = asked.steps or tuple(_STEP.findall(text))  # of several paths, as of one, the first
            asked.goes_on |= not test.is_equality
        elif subject is not None and subject.sense is Sense.PART and _STEP.fullmatch(text):
            asked.steps += (text,)
        elif subject is not None and subject.sense is Sense.MEMBER and text.isdigit():
            asked.goes_on |= int(text) > len(asked.steps) > 0

    def compared_with(self, test: Expression) -> tuple[Expression | None, str]:
        """What a condition compares, and the plain text, or number, that it compares it with."""
        is_asked = test.sense is Sense.CALL and len(test.parts) == 2 and test.parts[0].sense is Sense.MEMBER
        if not is_asked and not test.is_equality:
            return None, ""
        subject, wanted = test.parts
        said = self.module.source.slice(wanted.span)
        text = self.module.dialect.writer.text_value(said) if wanted.sense is Sense.CONSTANT else None
        return subject, text if text is not None else said if said.isdigit() else ""

    def compared(self, test: Expression) -> set[str]:
        """The texts that a condition, or a side of it, asks for."""
        parts = test.parts if test.sense is Sense.EITHER else [test]
        return {self.compared_with(part)[1] for part in parts}

    def name(self, asked: _Asked) -> str:
        """A name that nothing has; empty where there is none."""
        naming, rules = self.module.dialect.naming, self.module.dialect.rules
        name = naming.member_name(handler_words(asked.verb.lower(), asked.path, ()))
        is_free = name not in self.module.names_in_use and not rules.is_taken(name)
        return name if rules.is_name(name) and is_free else ""
