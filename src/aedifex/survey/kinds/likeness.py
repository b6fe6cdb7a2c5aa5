"""Whether stretches of code are the same but for the copy that they are about, and the constants in them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.structure.state import Constants as Settled
from aedifex.source.text import Span


@dataclass(frozen=True)
class Hole:
    """A place at which several copies have different constants: the constant of each, in the order of the copies."""

    constants: tuple[Expression, ...]


@dataclass
class Likeness:
    """Copies of a stretch of code that are alike: the constants that differ, and the local names of others that do."""

    holes: list[Hole] = field(default_factory=list)
    renamed: list[Symbol] = field(default_factory=list)


class Constants(Analysis):
    """The constants of a file in the order of the text: numbers with their signs, and rows of constants as one.

    Names of what never changes are among them: those that the script settles, and those of libraries.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.all: list[Expression] = []
        waiting = list(Surroundings.of(module).trees)
        while waiting:
            expression = waiting.pop()
            if is_constant(module, expression) or is_named_constant(module, expression):
                self.all.append(expression)
            else:
                waiting += expression.parts
        self.all.sort(key=lambda constant: constant.start)

    def within(self, span: Span) -> list[Expression]:
        """Those in a stretch of the text."""
        return [constant for constant in self.all if span.start <= constant.start and constant.end <= span.end]


def is_named_constant(module: Module, expression: Expression) -> bool:
    """Whether an expression is no more than the name of a constant: of the script, or of a module of a library."""
    names_constant = module.dialect.naming.names_constant
    if expression.sense is Sense.MEMBER and expression.parts[0].sense is Sense.NAME:
        base = expression.parts[0].reference
        brought = base.symbol.imported if base is not None and base.symbol.is_module_level else None
        return brought is not None and brought.name is None and names_constant(expression.name or "")
    symbol = expression.reference.symbol if expression.reference is not None else None
    is_named = expression.sense is Sense.NAME and symbol is not None and symbol.is_module_level
    if symbol is None or not is_named or not names_constant(symbol.name):
        return False
    return symbol.imported is not None or Settled.of(module).settles(symbol)


def is_constant(module: Module, expression: Expression) -> bool:
    """Whether an expression is a number, a text, or several of them in parentheses."""
    if expression.sense is Sense.OPERATION and len(expression.parts) == 1:
        return expression.parts[0].sense is Sense.CONSTANT
    if expression.sense is Sense.TUPLE:
        is_closed = module.source.slice(expression.span)[:1] == "("
        return is_closed and all(is_constant(module, part) for part in expression.parts)
    return expression.sense is Sense.CONSTANT


def alike(module: Module, spans: Sequence[Span], same: Sequence[Mapping[Symbol, Symbol]]) -> Likeness | None:
    """How stretches of code are alike; `same` maps the symbols of the first to those of each of the others.

    Local names may differ as long as they do so throughout. None where something else differs.
    """
    first = _Stretch(module, spans[0])
    columns: list[list[Expression]] = [[constant] for constant in first.constants]
    renamed: list[Symbol] = []
    for span, mapping in zip(spans[1:], same, strict=True):
        other = _Stretch(module, span)
        if first.skeleton != other.skeleton or len(first.constants) != len(other.constants):
            return None
        local = _local_names(first.references, other.references, mapping, (spans[0], span))
        if local is None:
            return None
        renamed += [there for here, there in local.items() if here.name != there.name]
        for column, constant in zip(columns, other.constants, strict=True):
            column.append(constant)
    found = Likeness(renamed=renamed)
    for column in columns:
        if len({module.source.slice(constant.span) for constant in column}) > 1:
            found.holes.append(Hole(tuple(column)))
    return found


def _local_names(
    ones: Sequence[Reference], others: Sequence[Reference], mapping: Mapping[Symbol, Symbol], spans: tuple[Span, Span]
) -> dict[Symbol, Symbol] | None:
    """Which local name of one stretch is which of another; None where other names differ, or these do in places."""
    if len(ones) != len(others):
        return None
    local: dict[Symbol, Symbol] = {}
    back: dict[Symbol, Symbol] = {}
    for one, other in zip(ones, others, strict=True):
        if one.mode is not other.mode or one.form is not other.form:
            return None
        wanted = mapping.get(one.symbol)
        if wanted is not None:
            if other.symbol is not wanted:
                return None
        elif _is_within(one.symbol, spans[0]) and _is_within(other.symbol, spans[1]):
            if local.setdefault(one.symbol, other.symbol) is not other.symbol:
                return None
            if back.setdefault(other.symbol, one.symbol) is not one.symbol:
                return None
        elif one.symbol is not other.symbol:
            return None
    return local


def _is_within(symbol: Symbol, span: Span) -> bool:
    """Whether a name belongs to a scope that lies in a stretch."""
    return span.start <= symbol.scope.start and symbol.scope.end <= span.end


class _Stretch:
    """A stretch of text as its names, its constants, and the text around them."""

    def __init__(self, module: Module, span: Span) -> None:
        self.constants = Constants.of(module).within(span)
        named = {r for c in self.constants for r in module.references_within(c.span)}
        self.references = [r for r in module.references_within(span) if r not in named]
        cuts = [r.span for r in self.references] + [c.span for c in self.constants]
        cuts += [c.span for c in module.comments if span.start <= c.start < span.end]
        comments = {c.start for c in module.comments}
        data = module.source.data
        pieces: list[str] = []
        at = span.start
        for cut in sorted(cuts, key=lambda cut: cut.start):
            if cut.start < at:
                continue
            pieces.append(data[at : cut.start].decode("utf-8", "replace"))
            if cut.start not in comments:
                pieces.append("\0")
            at = cut.end
        pieces.append(data[at : span.end].decode("utf-8", "replace"))
        self.skeleton = " ".join("".join(pieces).split())
