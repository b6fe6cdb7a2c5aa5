"""What a draft says of requests that fail, or never come."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.design.document.design import Design
from aedifex.program.model.program import Program
from aedifex.program.structure.routes import Routes


def failing_requests(design: Design) -> Iterator[str]:
    """Where a request for what is not there fails: that stays, and the design can ask for an answer instead."""
    for plan in design.data:
        where = ", ".join(f"{handler} (line {line})" for handler, line in plan.spots)
        if where:
            yield f'a request for what {plan.name} does not have fails in {where}; `missing = "404"` answers it so'


def doubled_routes(program: Program) -> Iterator[str]:
    """Paths of which an application is told twice: that stays, and one of the handlers is never asked."""
    for path, handlers in Routes.of(program.main).doubled:
        places = (program.original_place(program.main.source.place(f.statement.start)).line for f in handlers)
        named = " and ".join(f"{f.name} (line {line})" for f, line in zip(handlers, places, strict=True))
        yield f"{path} is told of more than once, for {named}: only one of them is ever asked"


def late_routes(program: Program) -> Iterator[str]:
    """Functions that tell an application of something when they are called: those routes come and go unseen."""
    for function, reference in Routes.of(program.main).told_later:
        line = program.original_place(program.main.source.place(reference.start)).line
        yield f"{function.name} tells {reference.name} of a route when it is called (line {line}): it stays as it is"
