"""Turning parts of records into members of objects: `bird["x"]` becomes `bird.x`."""

from __future__ import annotations

from aedifex.moves.kit.rewriter import Rewriter
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.names import Reference
from aedifex.source.text import Span

_STEPS = frozenset({Sense.MEMBER, Sense.PART, Sense.SLICE})


class MemberAccess:
    """Rewrites steps of access paths, and tells the check what they are called now."""

    def __init__(self, rewriter: Rewriter) -> None:
        self.rewriter = rewriter
        self.data = rewriter.module.source.data

    def of_part(self, access: Expression, name: str) -> None:
        """A part under a plain key becomes a member."""
        owner, key = access.parts
        bracket = self.data.rfind(b"[", owner.end, key.start)
        self._replace(Span(bracket, access.end), name)
        self.tell(access, name)

    def of_lookup(self, call: Expression, name: str) -> None:
        """A lookup by a method becomes a member."""
        method = call.parts[0]
        dot = self.data.rfind(b".", method.parts[0].end, method.end)
        self._replace(Span(dot, call.end), name)
        self.tell(method, name)

    def _replace(self, span: Span, name: str) -> None:
        writer = self.rewriter.writer
        self.rewriter.rewriting.changes.replace(self.rewriter.module.path, span, writer.member("", name))

    def tell(self, access: Expression, name: str) -> None:
        """A step of an access path is called otherwise now."""
        reference, depth = base_of(access)
        if reference is None or depth >= len(reference.path):
            return
        paths = self.rewriter.rewriting.paths
        steps = list(paths.get(reference, [step.name for step in reference.path]))
        steps[depth] = name
        paths[reference] = tuple(steps)


def base_of(access: Expression) -> tuple[Reference | None, int]:
    """The name that an access path begins with, and the number of a step in it."""
    return root_of(access.parts[0])


def root_of(expression: Expression) -> tuple[Reference | None, int]:
    """The name that an expression begins with, and how many steps lead on from it."""
    depth = 0
    while expression.sense in _STEPS:
        depth += 1
        expression = expression.parts[0]
    return expression.reference, depth
