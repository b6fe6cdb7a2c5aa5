"""remark: a text that stands by itself between the statements of a script becomes the comment that it is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.errors import RefusedError


@dataclass(frozen=True)
class Remark:
    """Make comments of the texts that stand by themselves at the top level, below what describes the file."""

    name: ClassVar[str] = "remark"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: there are none.
        """
        module = module_of(program, self.path)
        found = list(loose_texts(module))
        if not found:
            raise RefusedError(f"no text stands by itself between the statements of {module.path.name}")
        return _Remarking(module, found).plan()


def loose_texts(module: Module) -> Iterator[Statement]:
    """The texts of the top level that nothing comes of, on lines of their own; not the first, which is the file's."""
    layout, text_value = Layout.of(module), module.dialect.writer.text_value
    for statement in module.block.statements[1:]:
        if statement.is_text and layout.stands_alone(statement):
            said = text_value(module.source.slice(statement.span))
            if said is not None and said.strip():
                yield statement


class _Remarking(Planner):
    def __init__(self, module: Module, found: list[Statement]) -> None:
        super().__init__(module)
        self.found = found

    def write(self) -> None:
        for statement in self.found:
            said = self.writer.text_value(self.module.source.slice(statement.span))
            assert said is not None
            lines = self.layout.own_lines(statement)
            self.rewriting.changes.replace(self.module.path, lines, self.writer.remark(said.strip("\n")))


def _by_hand(program: Program, script: Path, given: Given) -> list[Remark]:
    return [Remark(script)]


MOVE = Description(
    name="remark",
    place=1,
    summary=(
        "A text that stands by itself between statements becomes the comment that it is.\n"
        "What describes a file, a class or a function stays; refused where there is none else."
    ),
    term="Replace Idle Text with Comment",
    help="Make comments of texts that stand by themselves.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before='''\
"""The quay."""

"""where the kites are"""
kites = 3
print(kites)
''',
        after={
            "harbour.py": '''\
"""The quay."""

# where the kites are
kites = 3
print(kites)
''',
        },
    ),
)
