"""Names of the top level that functions say they give values to."""

from __future__ import annotations

from collections.abc import Iterable

from aedifex.moves.kit.planner import Planner
from aedifex.program.model.names import Reference
from aedifex.program.model.statements import Function
from aedifex.program.structure.room import first_behind_doc


class Declaring(Planner):
    """A planner that lets functions share variables of the top level."""

    def declare(self, settings: Iterable[tuple[Reference, str]]) -> None:
        """Say in functions that variables which they set, each at a place of theirs, are those of the top level."""
        names: dict[Function, dict[str, None]] = {}
        for reference, name in settings:
            function = reference.scope.routine
            if isinstance(function, Function):
                names.setdefault(function, {})[name] = None
        for function, shared in names.items():
            first = first_behind_doc(function)
            assert first is not None
            at = self.layout.own_lines(first).start
            self.rewriter.insert(at, *self.writer.sharing(list(shared), self.layout.margin(first)))
