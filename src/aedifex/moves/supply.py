"""supply: a class of the script is given in its constructor what it used of the script."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import Objections, class_of, module_of, symbol_of
from aedifex.moves.kit.rewriter import Rewriter, is_declaration, takes_by_keyword
from aedifex.moves.kit.rewriting import Member, Rewriting
from aedifex.program.analysis.effects import Effects, actor_of
from aedifex.program.analysis.members import Members, Mentions, receiver_class
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, ParameterKind, Routine, Statement, call_of
from aedifex.program.structure.obstacles import is_hard_to_echo

_ADVICE = "Pass it into the class by hand first."


@dataclass(frozen=True)
class Supply:
    """Give every object of a class what `variable` holds, in its constructor, for the class to use instead."""

    name: ClassVar[str] = "supply"
    summary: ClassVar[str] = (
        "A class of the script gets in its constructor what it used of the script.\n"
        "Only what is bound once can be given: an object, or a function."
    )

    path: Path
    class_name: str
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Supplying(self, program, module).plan()


class _Supplying:
    def __init__(self, move: Supply, program: Program, module: Module) -> None:
        self.move = move
        self.program = program
        self.module = module
        self.dialect = module.dialect
        self.statement, self.scope = class_of(module, move.class_name)
        self.symbol = symbol_of(module, move.variable)
        self.members = Members(Mentions.of(program), module, self.scope)
        self.effects = Effects.of(module)
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.objections = Objections(module)

    def plan(self) -> Rewriting:
        self.object()
        self.objections.raise_any()
        self.write_constructor()
        for reference in self.uses:
            self.rewrite_use(reference)
        for call in self.sites:
            self.write_argument(call)
        self.rewriter.finish()
        return self.rewriting

    # -- what there is

    @cached_property
    def uses(self) -> list[Reference]:
        """Where the class uses the variable."""
        return [r for r in self.symbol.references if r.scope.within(self.scope)]

    @cached_property
    def own_symbol(self) -> Symbol:
        return next(r.symbol for r in self.statement.references if r.mode.writes)

    @cached_property
    def sites(self) -> list[Call]:
        """Where objects of the class are made."""
        calls = (self.call_of(reference) for reference in self.own_symbol.references)
        return [call for call in calls if call is not None]

    def call_of(self, reference: Reference) -> Call | None:
        return call_of(reference) if reference.mode is Mode.CALL and not reference.path else None

    @cached_property
    def constructor(self) -> Routine | None:
        return self.members.constructor

    @cached_property
    def field(self) -> str:
        """The field that keeps it: a name that nothing in the class or in what it inherits from has."""
        name = self.move.variable
        taken = {*self.members.fields, *self.members.methods, *self.members.all.by_class[self.scope]}
        wishes = (name, f"the_{name}", f"own_{name}")
        return next((w for w in wishes if w not in taken and not self.is_inherited(w)), "")

    def is_inherited(self, name: str) -> bool:
        bases = [r for r in self.statement.references if r.mode.reads]
        return any(self.dialect.may_have_member(base, name, self.module.path.parent) for base in bases)

    # -- reasons against it

    def object(self) -> None:
        at, home, name = self.statement.start, self.move.class_name, self.move.variable
        if not self.is_bound_once:
            self.objections.add(at, f"`{name}` is not bound once, at the top level", _ADVICE)
        if not self.uses:
            self.objections.add(at, f"{home} does not use `{name}`", "Name what the class uses.")
        if self.statement.decorators or home in self.module.used_elsewhere:
            self.objections.add(at, f"{home} is decorated, or objects of it are made in other files", _ADVICE)
        named = [symbol.name for symbol in self.scope.symbols.values() if symbol.bindings]
        if self.members.all.are_looked_up_by_text or any(map(self.dialect.steers_access, named)):
            self.objections.add(at, f"members of {home} may be reached in a way that cannot be seen", _ADVICE)
        if self.members.all.is_derived(self.scope) and self.is_inherited("__setattr__"):
            self.objections.add(at, f"what {home} inherits from decides how fields are set", _ADVICE)
        if any(self.dialect.copies_objects(module) for module in self.program.imported):
            self.objections.add(at, f"objects of {home} may be copied or stored", _ADVICE)
        if self.dialect.is_private(name) or not self.field:
            self.objections.add(at, f"{home} has no free name for `{name}`", _ADVICE)
        self.object_to_constructor()
        for reference in self.uses:
            self.object_to_use(reference)
        for reference in self.own_symbol.references:
            self.object_to_mention(reference)

    @cached_property
    def is_bound_once(self) -> bool:
        bindings = self.symbol.bindings
        is_kept = not any(r.mode is Mode.DELETE for r in self.symbol.references)
        statement = bindings[0].statement if len(bindings) == 1 else None
        return is_kept and statement is not None and statement.block is self.module.block

    def object_to_constructor(self) -> None:
        routine = self.constructor
        at, home = self.statement.start, self.move.class_name
        if routine is None:
            if self.members.all.is_derived(self.scope) or not self.layout.stands_alone(self.body_start):
                self.objections.add(
                    at, f"{home} has no constructor of its own", "Write one that calls that of its base."
                )
            return
        statement = routine.statement
        assert statement is not None and routine.body is not None
        plain = bool(routine.parameters) and not (statement.decorators or routine.is_async or routine.is_generator)
        if not plain or receiver_class(routine.parameters[0].reference.symbol) is not self.scope:
            self.objections.add(statement.start, f"the constructor of {home} is no plain method", _ADVICE)
        elif any(self.field in inner.symbols for inner in routine.scope.walk()):
            self.objections.add(statement.start, f"the constructor has a name `{self.field}` of its own", "Rename it.")
        if any(p.kind is ParameterKind.KEYWORD_REST for p in routine.parameters):
            self.objections.add(statement.start, f"the constructor of {home} takes any keyword", _ADVICE)
        if not self.layout.stands_alone(routine.body.statements[0]):
            self.objections.add(statement.start, f"the constructor of {home} stands on one line", "Break the line.")

    @property
    def body_start(self) -> Statement:
        """The first statement of the class."""
        return self.statement.blocks[0].statements[0]

    def object_to_use(self, reference: Reference) -> None:
        if is_declaration(reference):
            return
        if self.receiver_at(reference) is None:
            reason = f"`{reference.name}` is used here where no object of {self.move.class_name} is at hand"
            self.objections.add(reference.start, reason, _ADVICE)
        elif is_hard_to_echo(self.module, reference):
            reason = f"`{reference.name}` stands in a template that shows its own text"
            self.objections.add(reference.start, reason, "Write the text out before the value.")

    def receiver_at(self, reference: Reference) -> str | None:
        """The name of the receiver where a reference of the class stands."""
        method = self.method_around(reference.scope)
        routine = method.routine if method is not None else None
        if routine is None or not routine.parameters:
            return None
        receiver = routine.parameters[0].reference.symbol
        is_there = receiver_class(receiver) is self.scope and reference.scope.find(receiver.name) is receiver
        return receiver.name if is_there else None

    def method_around(self, scope: Scope | None) -> Scope | None:
        while scope is not None and scope.parent is not self.scope:
            scope = scope.parent
        return scope

    def object_to_mention(self, reference: Reference) -> None:
        """Every object of the class must be made where the variable has its value already."""
        home = self.move.class_name
        call = self.call_of(reference)
        if reference.binds or (call is None and self.is_harmless(reference)):
            return
        if call is None or call.inside is None:
            self.objections.add(reference.start, f"{home} is used here otherwise than to make an object", _ADVICE)
        elif any(a.stars == "**" for a in call.arguments) or reference.scope.kind is ScopeKind.CLASS:
            self.objections.add(reference.start, f"what {home} gets here cannot be seen", _ADVICE)
        elif reference.scope.within(self.scope):
            if self.receiver_at(reference) is None:
                self.objections.add(reference.start, f"{home} makes an object here without having one", _ADVICE)
        elif reference.scope.find(self.move.variable) is not self.symbol:
            self.objections.add(reference.start, f"`{self.move.variable}` means something else here", "Rename that.")
        elif not self.is_ready(reference):
            self.objections.add(reference.start, f"`{self.move.variable}` may have no value yet here", _ADVICE)

    def is_harmless(self, reference: Reference) -> bool:
        if reference.path:
            first = reference.path[0]
            is_member = first.kind is AccessKind.ATTRIBUTE and first.name is not None
            return is_member and not self.dialect.is_implicit_method(first.name or "")
        calls = reference.statement.calls if reference.statement is not None else ()
        given = [c for c in calls if any((a.start, a.end) == (reference.start, reference.end) for a in c.arguments)]
        callees = [call.callee for call in given]
        only_reads = self.dialect.only_reads_arguments
        return bool(given) and all(c is not None and not c.path and only_reads(c.name) for c in callees)

    def is_ready(self, reference: Reference) -> bool:
        made = self.symbol.bindings[0].statement
        assert made is not None and reference.statement is not None
        actor = actor_of(reference.scope)
        first = reference.statement.outermost.index if actor is None else self.effects.first_run_of(actor)
        return first is None or first > made.index

    # -- writing

    def write_constructor(self) -> None:
        unit, routine = self.layout.indent, self.constructor
        if routine is None or routine.body is None:
            margin = self.layout.margin(self.body_start)
            head = self.dialect.constructor_head([self.field], margin)
            lines = f"{head}{margin}{unit}{self.dialect.receiver}.{self.field} = {self.field}\n\n"
            first = self.statement.blocks[0].statements
            after_doc = first[1] if first[0].word == "string" and len(first) > 1 else first[0]
            self.rewriter.insert(self.layout.lines(after_doc).start, lines)
            return
        self.rewriter.add_parameter(routine, self.field)
        receiver = routine.parameters[0].name
        statements = routine.body.statements
        margin = self.layout.margin(statements[0])
        line = f"{margin}{receiver}.{self.field} = {self.field}\n"
        if routine.doc is None:
            self.rewriter.insert(self.layout.lines(statements[0]).start, line)
        else:
            self.rewriter.insert(self.layout.own_lines(statements[0]).end, line)

    def rewrite_use(self, reference: Reference) -> None:
        if is_declaration(reference):
            self.rewriter.drop_declaration(reference)
            return
        text = f"{self.receiver_at(reference)}.{self.field}"
        self.rewriter.replace(reference, text, Member(self.move.class_name, self.field))

    def write_argument(self, call: Call) -> None:
        assert call.callee is not None
        value = self.move.variable
        if call.callee.scope.within(self.scope):
            value = f"{self.receiver_at(call.callee)}.{self.field}"
        by_keyword = self.constructor is not None and takes_by_keyword(self.constructor.parameters)
        self.rewriter.add_argument(call, self.field, value, by_keyword=by_keyword)
