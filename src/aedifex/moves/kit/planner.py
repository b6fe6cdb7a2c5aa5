"""The skeleton of a move at work: find what speaks against it, then write."""

from __future__ import annotations

from functools import cached_property

from aedifex.moves.kit.move import Objections
from aedifex.moves.kit.rewriter import Rewriter
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.model.module import Module


class Planner:
    """Works out the rewriting of one move on one module.

    `find_objections` notes what speaks against it by `object`; if there is nothing, `write` gathers the edits.
    """

    def __init__(self, module: Module) -> None:
        self.module = module
        self.dialect = module.dialect
        self.writer = module.dialect.writer
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.objections = Objections(module)

    @cached_property
    def has_names(self) -> bool:
        """Whether what a constructor is given can be said by name."""
        return bool(self.writer.named_argument("name", ""))

    def plan(self) -> Rewriting:
        """The rewriting.

        Raises:
            RefusedError: there are objections.
        """
        self.find_objections()
        self.objections.raise_any()
        self.write()
        self.rewriter.finish()
        return self.rewriting

    def find_objections(self) -> None:
        """Note what speaks against the move."""

    def write(self) -> None:
        """Gather the edits."""
        raise NotImplementedError

    def object(self, offset: int, reason: str, advice: str, mentions: int | None = None) -> None:
        """Note a reason against the move, at a place in the file; `{line}` in it is the line of what it mentions."""
        self.objections.add(offset, reason, advice, mentions)
