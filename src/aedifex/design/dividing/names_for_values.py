"""Names for what differs between runs that do the same with other values, and for what such runs do."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.design.dividing.names_from_calls import called_name
from aedifex.design.drafting.naming import VERBS
from aedifex.program.analysis.steady_values import is_plain_value
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Statement
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_COLORS = frozenset(
    "red green blue yellow orange purple pink brown black white gray grey cyan magenta gold silver navy lightblue "
    "lightgreen skyblue darkgreen violet".split()
)
_INSTEAD = {"text": "message", "image": "picture", "row": "line", "color": "paint"}
_CHANNELS = (3, 4)
_PLACE = ("x", "y")
_NO_NOUNS = frozenset({*_PLACE, "number", "color", "row", "column", "size", "width", "height", "angle", "distance"})
_KNOWN_FOR_UNKNOWN = 2


class ValueNames:
    """Names the plain values of a run by where they stand."""

    def __init__(self, module: Module) -> None:
        self.module = module
        self.library = module.dialect.library
        self.surroundings = Surroundings.of(module)

    def of(self, run: Sequence[Statement], values: Sequence[Span], holes: Sequence[Sequence[int]]) -> tuple[str, ...]:
        """A name for each hole among the values of a run; none at all where nothing tells what too many of them are."""
        names: list[str] = []
        unknown = 0
        passed = [values[place] for hole in holes for place in hole]
        references = (r for statement in run for r in self.module.references_within(statement.span))
        taken = {r.name for r in references if not any(span.holds(r.span) for span in passed)}
        for hole in holes:
            wishes = [self.said(values[place]) for place in hole]
            wish = next(filter(None, wishes), "")
            unknown += not wish
            wish = wish or self.sort(values[hole[0]])
            wish = _INSTEAD.get(wish, wish) if wish in taken else wish
            name = wish if wish not in names else f"{wish}{names.count(wish) + 1}"
            if name in taken or self.module.dialect.rules.is_reserved(name) or self.module.dialect.rules.is_taken(name):
                return ()
            names.append(name)
        return tuple(names) if unknown * _KNOWN_FOR_UNKNOWN <= len(names) - unknown else ()

    def said(self, span: Span) -> str:
        """What a value is: by the argument that it is, the place that it is a part of, or what is set to it."""
        expression = self.surroundings.by_span.get(span)
        around = self.surroundings.around(expression) if expression is not None else None
        if expression is None or around is None:
            return ""
        if self.color(span):
            return "color"
        if around.sense is Sense.TUPLE and len(around.parts) == len(_PLACE) and all(map(self.is_number, around.parts)):
            return _PLACE[around.parts.index(expression)]
        if around.sense is Sense.CALL and expression in around.parts[1:]:
            return self.argument(around, around.parts.index(expression) - 1)
        return ""

    def argument(self, call: Expression, number: int) -> str:
        """What a call takes at a place."""
        keyword = call.names[number] if number < len(call.names) else ""
        if keyword and self.module.dialect.rules.is_name(keyword):
            return keyword
        callee = call.parts[0].name or (call.parts[0].reference.name if call.parts[0].reference is not None else "")
        return self.library.parameter_name(callee, number)

    def is_number(self, expression: Expression) -> bool:
        """Whether an expression is a number that is written out."""
        text = self.module.source.slice(expression.span)
        return is_plain_value(expression) and text.lstrip("-+")[:1].isdigit()

    def color(self, span: Span) -> bool:
        """Whether a text is the name of a colour, or numbers make one."""
        text = self.module.source.slice(span)
        parts = text.strip("()").split(",")
        is_made = text.startswith("(") and len(parts) in _CHANNELS and all(p.strip().isdigit() for p in parts)
        return is_made or text.strip("\"'").lower() in _COLORS

    def sort(self, span: Span) -> str:
        """A word for a value of which nothing is known."""
        return "number" if self.module.source.slice(span).lstrip("-+")[:1].isdigit() else "text"

    def looks(self, run: Sequence[Statement]) -> list[str]:
        """The last words of a library's constants that calls are given: `bold` of `A_BOLD`."""
        found: list[str] = []
        for tree in (tree for statement in run for tree in self.surroundings.by_statement[statement]):
            for call in (e for e in tree.walk() if e.sense is Sense.CALL):
                for argument in (a for a in call.parts[1:] if a.sense is Sense.MEMBER and a.name):
                    base = argument.parts[0].reference
                    is_of_library = base is not None and base.symbol.imported is not None
                    if is_of_library and argument.name is not None and argument.name.isupper():
                        found += words_of(argument.name)[-1:]
        return found

    def deeds(self, run: Sequence[Statement], values: Sequence[str]) -> Iterator[str]:
        """Names for what a run does: the last of its calls that says so, and what it does it with."""
        joined = self.module.dialect.naming.member_name
        own = [r.name for s in run for r in self.module.references_within(s.span) if r.binds]
        nouns = [words_of(name)[-1:] for name in (*(v for v in values if v not in _NO_NOUNS), *own[:1])]
        for statement in reversed(run):
            for call in sorted(statement.calls, key=lambda call: call.end - call.start, reverse=True):
                words = words_of(self.library.deed(called_name(call))) or words_of(called_name(call))
                if words[:1] and words[0] in VERBS:
                    plain = words if len(words) > 1 or not nouns else [*words, *nouns[0]]
                    looks = self.looks(run)
                    if looks and len(plain) > 1:
                        yield joined([*plain[:-1], looks[0], plain[-1]])
                    yield joined(plain)
                    if "color" in values:
                        yield joined([*plain, "in", "color"])
                    yield from (joined([*words[:1], *noun]) for noun in nouns)
