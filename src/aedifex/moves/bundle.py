"""bundle: values that functions hand to one another become fields of one object, which is handed over instead."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter as Local
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.analysis.values import first_value
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Function
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.bundles import Bundle as Values
from aedifex.survey.kinds.bundles import bundles
from aedifex.survey.words import words_of

_ADVICE = "Choose another name."


@dataclass(frozen=True)
class Bundle:
    """Let an object of a new class keep what some variables hold: `fields` tells under which names.

    The object is called `instance`; where it keeps one value only, it takes the variable's place and name.
    """

    name: ClassVar[str] = "bundle"

    path: Path
    class_name: str
    instance: str
    fields: tuple[tuple[str, str], ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: no routine hands on what these variables hold.
        """
        module = module_of(program, self.path)
        found = next((values for values in bundles(module) if names_of(values) == list(dict(self.fields))), None)
        if found is None:
            known = "; ".join(", ".join(f"`{name}`" for name in names_of(values)) for values in bundles(module))
            raise RefusedError(
                f"{' and '.join(f'`{name}`' for name, _ in self.fields)} are not handed from function to function",
                advice=f"These are: {known}." if known else "Nothing is, in this script.",
            )
        return _Bundling(self, module, found).plan()


def names_of(values: Values) -> list[str]:
    """The names of the variables that hold such values first."""
    return [symbol.name for symbol in values.symbols]


class _Bundling(Planner):
    def __init__(self, move: Bundle, module: Module, values: Values) -> None:
        super().__init__(module)
        self.move = move
        self.values = values
        fields: Mapping[str, str] = dict(move.fields)
        self.fields = {symbol: fields[symbol.name] for symbol in values.symbols}

    def find_objections(self) -> None:
        at = self.values.last.start
        if self.move.class_name in self.module.names_in_use:
            self.object(at, f"the name `{self.move.class_name}` is in use already", _ADVICE)
        if not self.values.is_single and self.move.instance in self.module.names_in_use:
            self.object(at, f"the name `{self.move.instance}` is in use already", _ADVICE)
        if len(set(self.fields.values())) < len(self.fields):
            self.object(at, f"{self.move.class_name} would have two fields of one name", _ADVICE)
        if not self.layout.stands_alone(self.values.last):
            self.object(at, "this shares its line with another statement", "Break the line.")
        for reference in self.references:
            if is_hard_to_echo(self.module, reference):
                self.object(reference.start, "a template shows this by its text", "Write it out.")

    @cached_property
    def references(self) -> list[Reference]:
        """All places that name one of the values."""
        return [r for symbol in (*self.values.symbols, *self.values.parameters) for r in symbol.references]

    def write(self) -> None:
        self.write_class()
        if self.values.is_single:
            self.wrap()
        else:
            self.bring_together()

    def write_class(self) -> None:
        unit, writer = self.layout.indent, self.writer
        frame = writer.class_frame(self.move.class_name, "", unit)
        constructor = writer.constructor_frame(list(self.fields.values()), unit, unit)
        pieces: list[Piece] = [frame.head, constructor.head]
        for field in self.fields.values():
            pieces += [unit * 2, *writer.assignment(writer.member(writer.receiver, field), [field])]
        first = min(function.statement.start for function in self.values.functions)
        first = min(first, self.values.last.outermost.start)
        at = self.layout.lines(next(s for s in self.module.block.statements if s.end > first)).start
        head = self.layout.gap_before(at)
        self.rewriter.insert(at, head, *pieces, constructor.tail, frame.tail, self.layout.gap)

    # -- one value: the object takes its place

    def wrap(self) -> None:
        (symbol,) = self.values.symbols
        value = first_value(symbol)
        assert value is not None
        call = self.writer.call(self.move.class_name, [])
        self.rewriter.insert(value.start, call[:-1])
        self.rewriter.insert(value.end, call[-1])
        for reference in self.references:
            if reference.mode.reads and reference not in self.values.given:
                self.rewriting.paths[reference] = (self.fields[symbol], *(step.name for step in reference.path))
                self.rewriter.insert(reference.end, self.writer.member("", self.fields[symbol]))

    # -- several values: the object is made behind them, and handed over in their place

    def bring_together(self) -> None:
        last, name = self.values.last, self.move.instance
        made = self.writer.call(self.move.class_name, names_of(self.values))
        self.rewriter.insert(
            self.layout.own_lines(last).end, self.layout.margin(last), *self.writer.variable(name, [made])
        )
        for function, own in self.values.functions.items():
            self.take_parameters(function, own)
            for symbol in own:
                for reference in symbol.references:
                    if reference.mode.reads and reference not in self.values.given:
                        self.read_field(reference, function, self.fields[self.values.parameters[symbol]])
        for call in self.values.calls:
            self.hand_over(call)

    def read_field(self, reference: Reference, function: Function, field: str) -> None:
        self.rewriting.paths[reference] = (field, *(step.name for step in reference.path))
        text = self.writer.member(self.move.instance, field)
        self.rewriter.replace(reference, text, Local(function.name, self.move.instance))

    def take_parameters(self, function: Function, own: list[Symbol]) -> None:
        """The first of the parameters becomes the object, and the others go."""
        parameters = list(function.parameters)
        places = [number for number, p in enumerate(parameters) if p.reference.symbol in own]
        first = parameters[places[0]]
        self.rewriter.replace(
            first.reference,
            self.move.instance,
            Local(function.name, self.move.instance),
            Span(first.start, first.end),
        )
        for number in places[1:]:
            self.rewriter.drop([parameters[number].reference])
            self.remove(parameters[number - 1].end, parameters[number].end)

    def hand_over(self, call: Call) -> None:
        function = next(f for f in self.values.functions if call.callee is not None and f.symbol is call.callee.symbol)
        own = self.values.functions[function]
        places = [number for number, p in enumerate(function.parameters) if p.reference.symbol in own]
        for number in places:
            argument = call.arguments[number]
            name = self.module.reference_at[argument.start]
            if number == places[0]:
                around = next((f for f in self.values.functions if name.scope.within(f.scope)), self.values.routine)
                home = Local(around.name, self.move.instance) if around is not None else Renamed(self.move.instance)
                self.rewriter.replace(name, self.move.instance, home)
            else:
                self.rewriter.drop([name])
                self.remove(call.arguments[number - 1].end, argument.end)

    def remove(self, start: int, end: int) -> None:
        self.rewriting.changes.replace(self.module.path, Span(start, end))


def _by_hand(program: Program, script: Path, given: Given) -> list[Bundle]:
    fields = [named(text) for text in given["variables"]]
    instance = program.dialect.naming.member_name(words_of(given["class"]))
    return [Bundle(script, given["class"], instance, tuple(fields))]


MOVE = Description(
    name="bundle",
    place=12,
    summary=(
        "What functions hand to one another is kept by one object, handed over instead.\n"
        "Refused where a function is handed others too, or it could not be made in time."
    ),
    term="Introduce Parameter Object",
    help="Let one object keep what several functions are handed; `attach` then makes these its methods.",
    parameters=(
        StepParameter("variables", Takes.MANY, "VARIABLE[=FIELD]..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="width mark --class Chart",
        before="""\
def bar(width, mark, part):
    return mark * round(width * part)


def line(width, mark, name, part):
    return f"{name:6}{bar(width, mark, part)}"


def rule(width):
    return "-" * width


def main():
    width = 20
    mark = "#"
    print(line(width, mark, "rain", 0.4))
    print(rule(width))


main()
""",
        after={
            "harbour.py": """\
class Chart:
    def __init__(self, width, mark):
        self.width = width
        self.mark = mark


def bar(chart, part):
    return chart.mark * round(chart.width * part)


def line(chart, name, part):
    return f"{name:6}{bar(chart, part)}"


def rule(chart):
    return "-" * chart.width


def main():
    width = 20
    mark = "#"
    chart = Chart(width, mark)
    print(line(chart, "rain", 0.4))
    print(rule(chart))


main()
""",
        },
    ),
)
