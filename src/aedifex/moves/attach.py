"""attach: functions that are given an object become methods of its class; calls tell the object to do it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.adopt import NewMethod
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.member_access import base_of
from aedifex.moves.kit.move import class_of, function_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import idle_declarations
from aedifex.moves.kit.rewriting import Receiver, Renamed, Rewriting
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.parameter_passing import first_sure_binding
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Parameter
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.program.structure.state import Constants
from aedifex.source.text import Span
from aedifex.survey.kinds.objects import ObjectCalls, member_names, object_parameter

_ATOMS = frozenset({Sense.NAME, Sense.MEMBER, Sense.PART, Sense.CALL})


@dataclass(frozen=True)
class Attach:
    """Make methods of functions that are given an object of a class, whichever object that is."""

    name: ClassVar[str] = "attach"

    path: Path
    class_name: str
    methods: tuple[NewMethod, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Attaching(self, module_of(program, self.path)).plan()


class _Attaching(Planner):
    def __init__(self, move: Attach, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.class_statement, self.class_scope = class_of(module, move.class_name)
        self.methods = {function_of(module, method.routine): method for method in move.methods}
        self.calls = ObjectCalls.of(module)
        self.parameters: dict[Function, Parameter] = {}
        self.binders: list[Reference] = []

    # -- reasons against it

    def find_objections(self) -> None:
        taken = member_names(self.module, self.class_scope)
        for function, method in self.methods.items():
            for obstacle in function_obstacles(self.module, function):
                self.object(*obstacle)
            if method.name in taken:
                self.object(
                    function.scope.start,
                    f"{self.move.class_name} has a member `{method.name}` already",
                    "Choose another name in the design.",
                )
            taken.add(method.name)
            self.object_to_state(function)
            parameter = object_parameter(self.module, function, self.class_scope)
            if parameter is None:
                self.object(
                    function.scope.start,
                    f"no parameter of `{function.name}` is certainly an object of {self.move.class_name}",
                    "Leave it a function.",
                )
                continue
            self.parameters[function] = parameter
            for obstacle in self.calls.obstacles(function, parameter):
                self.object(*obstacle)
            self.object_to_signature(function)

    def object_to_signature(self, function: Function) -> None:
        """What a signature needs when it is read must be there when the class is made."""
        going = self.rewriter.type_names(self.parameters[function].annotation)
        for use in function.statement.references:
            is_needed = (
                use.scope.kind is ScopeKind.MODULE and use.symbol.origin is None and use.form is not Form.ROUTINE
            )
            is_needed = is_needed and use not in going and use.form is not Form.QUOTED and not self.means_class(use)
            bound = first_sure_binding(self.module, use.symbol) if is_needed else 0
            if bound is None or bound > self.class_statement.index:
                self.object(
                    use.start,
                    f"the signature of `{function.name}` needs `{use.name}` before its class is made",
                    "Make the default a plain value, or define what it needs further up.",
                )

    def means_class(self, use: Reference) -> bool:
        """Whether a declared type names the class itself, of which a method cannot know while it is made."""
        return use.form is Form.ANNOTATION and use.name == self.move.class_name

    def object_to_state(self, function: Function) -> None:
        """A method of a class that has many objects uses what it is given, and nothing of the program's state."""
        touched = Effects.of(self.module).transitive[function].touches
        for symbol in Constants.of(self.module).changing(touched):
            if symbol.is_module_level:
                self.object(
                    function.scope.start,
                    f"`{function.name}` works on `{symbol.name}`, which is not part of {self.move.class_name}",
                    "Leave it with the owner, or have the value passed in.",
                )

    # -- writing

    def write(self) -> None:
        pieces: list[Piece] = []
        for function, method in self.methods.items():
            lines = self.layout.lines(function.statement)
            pieces += ["\n", *self.rewriter.lines_taken(lines, indent=self.layout.indent)]
            self.rewriter.remove(lines)
            self.rewriter.replace(function.named, method.name, Renamed(method.name))
            for scope in function.scope.walk():
                for use in idle_declarations(scope):
                    self.rewriter.drop_declaration(use)
            self.take_parameter(function, self.parameters[function])
            for call in self.calls.of_function(function):
                self.rewrite_call(call, function, method)
            for binding in self.calls.bindings_of(function):
                self.rewrite_binding(binding, method)
        declared = [use for f in self.methods for use in self.rewriter.type_names(self.parameters[f].annotation)]
        self.rewriter.forget_imports([*self.binders, *declared])
        body = self.class_statement.blocks[0].statements
        if (
            len(body) == 1
            and body[0].kind is Kind.NOTHING
            and not body[0].references
            and self.layout.stands_alone(body[0])
        ):
            self.rewriter.remove(self.layout.own_lines(body[0]))
            pieces = pieces[1:]
        self.rewriter.insert(self.layout.own_lines(body[-1]).end, *pieces)

    def replace(self, span: Span, *pieces: Piece) -> None:
        self.rewriting.changes.replace(self.module.path, span, *pieces)

    def take_parameter(self, function: Function, parameter: Parameter) -> None:
        """The parameter that is the object becomes the receiver."""
        symbol = parameter.reference.symbol
        going = self.rewriter.type_names(parameter.annotation)
        self.rewriter.drop([parameter.reference, *going])
        quoted: set[Span] = set()
        for use in set(function.statement.references).difference(going):
            if self.means_class(use) and not self.module.postpones_annotations:
                types = [p.annotation for p in function.parameters] + [function.result_type]
                quoted.update(span for span in types if span is not None and span.holds(use.span))
        for span in quoted:
            self.rewriter.quote_type(span)
        at = function.parameters.index(parameter)
        others = [p for p in function.parameters if p is not parameter]
        receiver = self.writer.receiver_parameter(bool(others))
        if at > 0 or not receiver:
            self.rewriter.make_method(function)
        if at == 0:
            end = function.parameters[1].start if others else parameter.end
            self.replace(Span(parameter.start, end), receiver)
        else:
            self.replace(Span(function.parameters[at - 1].end, parameter.end))
        for reference in symbol.references:
            if reference is not parameter.reference:
                self.rewriter.replace(reference, self.writer.receiver, Receiver(self.move.class_name))

    def rewrite_call(self, call: Expression, function: Function, method: NewMethod) -> None:
        callee, *arguments = call.parts
        number = self.calls.argument_of(call, function, self.parameters[function])
        assert number is not None
        assert callee.reference is not None
        self.rewriter.drop([callee.reference])
        told = self.method_of(arguments[number], method)
        statement = call.statement
        if statement is not None and statement.start == call.start:
            begin = "(" if told[0] == "(" else self.module.source.slice(arguments[number].span)
            told.insert(0, self.writer.beginning(begin).head)
        self.replace(callee.span, *told)
        self.take_argument(call, number)

    def rewrite_binding(self, binding: Expression, method: NewMethod) -> None:
        """What binds a function to its object gives way to its method; what it is given besides stays bound."""
        binder, bound, given, *others = binding.parts
        assert binder.reference is not None and bound.reference is not None
        if others:
            spans = self.calls.argument_spans(binding)
            self.rewriter.drop([bound.reference])
            self.replace(Span(spans[0].start, spans[1].end), *self.method_of(given, method))
        else:
            self.rewriter.drop([binder.reference, bound.reference])
            self.binders.append(binder.reference)
            self.replace(binding.span, *self.method_of(given, method))

    def method_of(self, given: Expression, method: NewMethod) -> list[Piece]:
        """The method of an object that stood among the arguments."""
        taken = self.rewriter.taken(given.span)
        is_bare = given.sense is Sense.CALL and not self.module.source.slice(given.span).endswith(")")
        base: list[Piece] = [taken] if given.sense in _ATOMS and not is_bare else ["(", taken, ")"]
        begins = given.reference or (base_of(given)[0] if given.sense in (Sense.MEMBER, Sense.PART) else None)
        if begins is not None:
            self.rewriting.paths[begins] = (*(step.name for step in begins.path), method.name)
        return [*base, self.writer.member("", method.name)]

    def take_argument(self, call: Expression, number: int) -> None:
        """Take an argument away, with the comma that separates it from its neighbour."""
        spans = self.calls.argument_spans(call)
        if number + 1 < len(spans):
            self.replace(Span(spans[number].start, spans[number + 1].start))
        elif number > 0:
            self.replace(Span(spans[number - 1].end, spans[number].end))
        else:
            inside = self.calls.inside(call)
            self.replace(Span(inside.start - 1, inside.end + 1), self.writer.call("", []))


def _by_hand(program: Program, script: Path, given: Given) -> list[Attach]:
    methods = tuple(NewMethod(*named(text)) for text in given["functions"])
    return [Attach(script, given["class"], methods)]


MOVE = Description(
    name="attach",
    place=62,
    summary=(
        "Functions that are given an object become methods of its class; calls tell it.\n"
        "Refused where it may be something else, or where a function needs other state."
    ),
    term="Move Method",
    help="Turn functions that are given an object into methods of its class.",
    parameters=(
        StepParameter("functions", Takes.MANY, "FUNCTION[=METHOD]..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="pull_kite=pull --class Kite",
        before="""\
class Kite:
    def __init__(self, color):
        self.color = color
        self.line = 40


def pull_kite(kite, meters):
    kite.line -= meters


kites = [Kite("red"), Kite("blue")]
for kite in kites:
    pull_kite(kite, 5)
    print(kite.color, kite.line)
""",
        after={
            "harbour.py": """\
class Kite:
    def __init__(self, color):
        self.color = color
        self.line = 40

    def pull(self, meters):
        self.line -= meters


kites = [Kite("red"), Kite("blue")]
for kite in kites:
    kite.pull(5)
    print(kite.color, kite.line)
""",
        },
    ),
)
