"""register: a decorator that only tells an application of a function becomes a statement behind that function."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function
from aedifex.program.structure.obstacles import is_bound_again
from aedifex.program.structure.routes import AS_IT_STANDS, Hook, Routes
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_BLANK = re.compile(r"\{(\w+)\}")
_APPLICATION = "{app}."


@dataclass(frozen=True)
class Register:
    """Tell applications of their handlers by statements."""

    name: ClassVar[str] = "register"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: there is no such decorator, or a handler's name means several things.
        """
        module = module_of(program, self.path)
        if not Routes.of(module).hooks:
            raise RefusedError(f"no decorator in {module.path.name} only tells an application of a function")
        return _Registering(module).plan()


class _Registering(Planner):
    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.hooks = Routes.of(module).hooks

    def find_objections(self) -> None:
        for function in self.hooks:
            start = function.statement.start
            if function.statement.block.owner is not None:
                reason = f"`{function.name}` is defined inside another statement"
                self.object(start, reason, "Move its definition to the top level.")
            if is_bound_again(function.symbol):
                advice = "Give each handler a name of its own."
                self.object(start, f"`{function.name}` is bound more than once", advice)

    def write(self) -> None:
        for function, hooks in self.hooks.items():
            for hook in hooks:
                line_end = self.module.source.line_end(hook.span.end - 1)
                self.rewriter.remove(Span(self.module.source.line_start(hook.span.start), line_end))
            told = [piece for hook in reversed(hooks) for piece in [*self.told(function, hook), "\n"]]
            end = self.layout.lines(function.statement).end
            self.rewriter.insert(end, *self.rewriter.line_break(end), self.layout.gap, *told)

    def told(self, function: Function, hook: Hook) -> Iterator[Piece]:
        """The statement that stands for a decorator."""
        written = AS_IT_STANDS if self.has_comment(hook) else hook.written
        called = written.partition("(")[0]
        if called.startswith(_APPLICATION):
            before = tuple(step.name for step in hook.decorator.path[:-1])
            self.rewriting.paths[hook.decorator] = (*before, *called.removeprefix(_APPLICATION).split("."))
        for number, part in enumerate(_BLANK.split(written)):
            if number % 2 == 0:
                yield part
            elif part == "handler":
                yield function.name
            else:
                yield from self.part_of(hook, part)

    def has_comment(self, hook: Hook) -> bool:
        return any(hook.span.start <= comment.start < hook.span.end for comment in self.module.comments)

    def part_of(self, hook: Hook, part: str) -> Iterator[Piece]:
        """The text of a part of a decorator."""
        name, arguments = hook.decorator, hook.call.arguments if hook.call is not None else ()
        before_last = name.path[-2].end if len(name.path) > 1 else name.end
        spans = {
            "app": Span(name.start, before_last),
            "how": name.reach,
            "decorator": Span(name.start, hook.call.end if hook.call is not None else name.reach.end),
        }
        if arguments:
            spans["all"] = Span(arguments[0].start, arguments[-1].end)
            spans["first"] = arguments[0].span
        if len(arguments) > 1:
            spans["rest"] = Span(arguments[1].start, arguments[-1].end)
        if part in spans:
            yield from [", "] if part == "rest" else []
            yield self.rewriter.taken(spans[part])


def _by_hand(program: Program, script: Path, given: Given) -> list[Register]:
    return [Register(script)]


MOVE = Description(
    name="register",
    place=44,
    summary=(
        "A decorator that only tells an application of a handler, or notes it, gives way.\n"
        "Refused where two handlers have one name; a decorator that does more stays."
    ),
    term="Replace Decorator with Registration",
    help="Tell the application of its handlers by statements, so that handlers can become methods.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
from flask import Flask

app = Flask(__name__)


@app.route("/tide", methods=["GET"])
def tide():
    return "rising"
""",
        after={
            "harbour.py": """\
from flask import Flask

app = Flask(__name__)


def tide():
    return "rising"


app.add_url_rule("/tide", view_func=tide, methods=["GET"])
""",
        },
    ),
)
