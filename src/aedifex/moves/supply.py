"""supply: a class of the script is given in its constructor what it used of the script."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import takewhile
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.member_names import is_seen_whole
from aedifex.moves.kit.move import class_of, module_of, symbol_of
from aedifex.moves.kit.one_line import broken, gaps
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.relatives import Relative, family
from aedifex.moves.kit.rewriter import is_declaration, takes_by_keyword
from aedifex.moves.kit.rewriting import Member, Rewriting
from aedifex.program.analysis.detached import detached
from aedifex.program.analysis.effects import Effects, actor_of
from aedifex.program.analysis.members import Members, lone_value, receiver_class
from aedifex.program.analysis.parameter_passing import gives_each
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Form, Mode, Reference, Scope, ScopeKind
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Function, Kind, ParameterKind, Statement, call_of
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.program.structure.own_names import uses_own
from aedifex.source.text import Span

_ADVICE = "Pass it into the class by hand first."


@dataclass(frozen=True)
class Supply:
    """Give every object of a class what `variable` holds, in its constructor, for the class to use instead."""

    name: ClassVar[str] = "supply"

    path: Path
    class_name: str
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Supplying(self, program, module).plan()


class _Supplying(Planner):
    def __init__(self, move: Supply, program: Program, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.statement, self.scope = class_of(module, move.class_name)
        self.symbol = symbol_of(module, move.variable)
        self.family = family(program, module, self.scope)
        self.scopes = {one.scope: one for one in self.family}
        self.members = self.family[0].members
        self.effects = Effects.of(module)

    def write(self) -> None:
        self.write_constructor()
        for heir in self.family[1:]:
            self.write_heir(heir)
        for reference in self.uses:
            self.rewrite_use(reference)
        for one, call in self.sites:
            self.write_argument(one, call)

    # -- what there is

    @cached_property
    def kin(self) -> list[Members]:
        """The members of the class, of all that come from it, and of all that it comes from."""
        return [one.members for one in (*self.family, *self.family[0].forebears)]

    @cached_property
    def inherited(self) -> set[str]:
        """The names that any of them binds itself: setting a member of such a name may do more."""
        return {name for members in self.kin for name in members.methods}

    @cached_property
    def uses(self) -> list[Reference]:
        """Where the class uses the variable, or one that comes from it."""
        return [r for r in self.symbol.references if self.home_of(r.scope) is not None]

    def home_of(self, scope: Scope) -> Relative | None:
        """The class of the family in which a scope lies."""
        around = next((one for one in self.scopes if scope.within(one)), None)
        return self.scopes[around] if around is not None else None

    @cached_property
    def sites(self) -> list[tuple[Relative, Call]]:
        """Where objects are made, and of which class of the family."""
        calls = ((one, self.call_of(reference)) for one in self.family for reference in one.symbol.references)
        return [(one, call) for one, call in calls if call is not None]

    def call_of(self, reference: Reference) -> Call | None:
        return call_of(reference) if reference.mode is Mode.CALL and not reference.path else None

    @cached_property
    def constructor(self) -> Function | None:
        return self.members.constructor

    @cached_property
    def gaps(self) -> list[Span]:
        """The blanks between the constructor's statements, where these have no lines of their own."""
        return gaps(self.module, self.constructor) if self.constructor is not None else []

    @cached_property
    def field(self) -> str:
        """The field that keeps it: a name that nothing in the class or in what it inherits from has."""
        name = self.move.variable
        taken = {n for m in self.kin for n in (*m.fields, *m.methods, *m.all.by_class[m.scope])}
        joined = self.dialect.naming.joined
        wishes = (name, joined("the", name), joined("own", name))
        return next((w for w in wishes if w not in taken and not self.is_inherited(w)), "")

    def is_inherited(self, name: str) -> bool:
        folder = self.module.path.parent
        return any(self.dialect.library.may_have_member(base, name, folder) for base in self.bases)

    @property
    def bases(self) -> list[Reference]:
        """What the class, or one that it comes from, inherits from others, or else names in its heading."""
        own = [self.family[0], *self.family[0].forebears]
        return [r for one in own for r in one.heading if r.symbol not in {other.symbol for other in own}]

    def may_take_part(self, base: Reference) -> bool:
        is_root = self.dialect.rules.is_root_class(base.name)
        return not is_root and self.dialect.library.may_take_part_in_objects(base, self.module.path.parent)

    # -- reasons against it

    def find_objections(self) -> None:
        at, home, name = self.statement.start, self.move.class_name, self.move.variable
        if not self.is_bound_once:
            self.object(at, f"`{name}` is not bound once, at the top level", _ADVICE)
        if not self.uses:
            self.object(at, f"{home} does not use `{name}`", "Name what the class uses.")
        if any(self.may_take_part(base) for base in self.bases):
            self.object(at, f"what {home} inherits from decides how fields are set", _ADVICE)
        if self.family[0].heading and self.dialect.rules.base_comes_first:
            self.object_to_base()
        if any(self.dialect.library.copies_objects(module) for module in self.program.imported):
            self.object(at, f"objects of {home} may be copied or stored", _ADVICE)
        if self.dialect.rules.is_private(name) or not self.field:
            self.object(at, f"{home} has no free name for `{name}`", _ADVICE)
        for one in self.family:
            self.object_to_class(one)
        for heir in self.family[1:]:
            self.object_to_heir(heir)
        self.object_to_constructor()
        self.object_to_hidden_sites()
        self.object_to_methods_alone()
        for reference in self.uses:
            self.object_to_use(reference)
        for one in self.family:
            for reference in one.symbol.references:
                self.object_to_mention(one, reference)

    def object_to_class(self, one: Relative) -> None:
        """All that is known of its objects must be seen."""
        at, home = one.statement.start, one.scope.name
        if one.statement.decorators or self.module.is_known_outside(home):
            self.object(at, f"{home} is decorated, or objects of it are made in other files", _ADVICE)
        constructor = self.dialect.rules.constructor
        named = [s.name for s in one.scope.symbols.values() if s.bindings and s.name != constructor]
        if self.members.all.are_looked_up_by_text or any(map(self.dialect.rules.customises_access, named)):
            self.object(at, f"members of {home} may be reached in a way that cannot be seen", _ADVICE)
        if is_seen_whole(one.members):
            self.object(
                at, f"objects of {home} are shown, written down or gone through, with all that they have", _ADVICE
            )

    def object_to_base(self) -> None:
        """What it comes from sets the object up before it can keep anything, and must not ask it for that."""
        own = self.family[0]
        at, home = own.statement.start, own.scope.name
        if own.base is None or own.constructor is None or not own.is_begun_once or len(own.heading) > 1:
            self.object(at, f"what {home} inherits from is set up before it can keep anything", _ADVICE)
        elif own.base.lets_objects_act:
            self.object(at, f"an object of {home} may be asked for something before it can keep anything", _ADVICE)
        for call in own.beginnings:
            self.object_to_early_uses(own, call)

    def object_to_heir(self, heir: Relative) -> None:
        """What comes from the class must hand on what its own constructor is given."""
        at, home = heir.statement.start, heir.scope.name
        function = heir.constructor
        if len(heir.heading) > 1:
            self.object(at, f"{home} comes from several classes", _ADVICE)
        if not heir.is_begun_once:
            self.object(at, f"{home} does not let its base set up each of its objects first, and once", _ADVICE)
        elif function is not None:
            self.object_to_plain(heir, function)
            for call in heir.beginnings:
                self.object_to_beginning(heir, call)

    def object_to_beginning(self, heir: Relative, call: Call) -> None:
        base = heir.base.setting_up if heir.base is not None else None
        if not self.has_names and not gives_each(call, base.parameters if base is not None else []):
            self.object(call.start, "a constructor is given fewer or more than it takes here", _ADVICE)
        if any(a.stars == "**" for a in call.arguments):
            self.object(call.start, f"what {self.move.class_name} gets here cannot be seen", _ADVICE)
        self.object_to_early_uses(heir, call)

    def object_to_early_uses(self, heir: Relative, call: Call) -> None:
        """Nothing that an object keeps can be asked for before it is set up."""
        early = (r for r in self.uses if self.home_of(r.scope) is heir and self.is_set_up_at(heir, r.scope))
        made = (c.callee for _, c in self.sites if c.callee is not None and self.is_set_up_at(heir, c.callee.scope))
        for reference in (*early, *made):
            if reference.start < call.end:
                self.object(reference.start, "this is asked for before the object is set up", _ADVICE)

    def is_set_up_at(self, heir: Relative, scope: Scope) -> bool:
        """Whether a scope lies in the constructor of an heir."""
        return heir.constructor is not None and scope.within(heir.constructor.scope)

    def object_to_hidden_sites(self) -> None:
        """No object may be made, or set up anew, by a way that does not name the class."""
        constructor = self.dialect.rules.constructor
        for reference in self.module.references:
            leads = reference.symbol.origin is not None and self.dialect.library.tells_class(reference.name)
            is_class = reference.symbol.forms & {Form.CLASS, Form.IMPORT, Form.STAR}
            sets_up = not is_class and any(access.name == constructor for access in reference.path)
            if sets_up or self.is_bare_receiver(reference) or (leads and self.may_lead_here(reference)):
                home = self.move.class_name
                self.object(reference.start, f"an object of {home} may be made or set up anew here", _ADVICE)
        for reference in (r for r in self.module.references if self.leads_to_class(r)):
            self.object(reference.start, f"what {self.move.class_name} gets here cannot be seen", _ADVICE)

    def object_to_methods_alone(self) -> None:
        """A method that forgets its object when it is handed on must always be called on one, to ask that."""
        if self.dialect.rules.binds_anew:
            return
        methods = {scope for use in self.uses if (scope := self.method_around(use.scope)) is not None}
        asking = [f for one in self.family for f in one.members.functions if f.scope in methods]
        for expression in detached(self.module, asking):
            self.object(
                expression.start, f"`{self.module.source.slice(expression.span)}` is used without its object", _ADVICE
            )

    def leads_to_class(self, reference: Reference) -> bool:
        """Whether the class is called by what an object says of it."""
        reaches = self.dialect.rules.customises_access
        return any(access.name is not None and reaches(access.name) for access in reference.path)

    def may_lead_here(self, reference: Reference) -> bool:
        """Whether the class of an object, asked for here, may be this one and may be called."""
        statement = reference.statement
        calls = statement.calls if statement is not None else []
        is_called = any(call.callee is None and call.start == reference.start for call in calls)
        return is_called or reference.scope.within(self.scope)

    def is_bare_receiver(self, reference: Reference) -> bool:
        """Whether a decorated method of the class uses its first parameter as a whole: it may be the class."""
        method = self.method_around(reference.scope)
        function = method.routine if method is not None else None
        if not isinstance(function, Function) or not function.statement.decorators or not function.parameters:
            return False
        first = function.parameters[0].reference
        return reference.symbol is first.symbol and reference is not first and not reference.path

    @cached_property
    def is_bound_once(self) -> bool:
        bindings = self.symbol.bindings
        is_kept = not any(r.mode is Mode.DELETE for r in self.symbol.references)
        statement = bindings[0].statement if len(bindings) == 1 else None
        return is_kept and statement is not None and statement.block is self.module.block

    def object_to_constructor(self) -> None:
        function = self.constructor
        at, home = self.statement.start, self.move.class_name
        if function is None:
            if self.members.all.is_derived(self.scope) or not self.layout.stands_alone(self.first_method):
                self.object(at, f"{home} has no constructor of its own", "Write one that calls that of its base.")
            return
        at = function.statement.start
        self.object_to_plain(self.family[0], function)
        first = function.body.statements[:1]
        if not self.gaps and not (first and self.layout.stands_alone(first[0])):
            self.object(at, f"the constructor of {home} stands on one line", "Break the line.")

    def object_to_plain(self, one: Relative, function: Function) -> None:
        """A constructor must take one more parameter."""
        at, home = function.statement.start, one.scope.name
        if function.receiver is None or function.is_postponed:
            self.object(at, f"the constructor of {home} is no plain method", _ADVICE)
        elif any(self.field in inner.symbols for inner in function.scope.walk()):
            self.object(at, f"the constructor has a name `{self.field}` of its own", "Rename it.")
        kinds = {p.kind for p in function.parameters}
        if ParameterKind.KEYWORD_REST in kinds:
            self.object(at, f"the constructor of {home} takes any keyword", _ADVICE)
        elif ParameterKind.REST in kinds and not self.has_names:
            self.object(at, f"the constructor of {home} takes whatever it is given", _ADVICE)

    @property
    def body_start(self) -> Statement:
        """The first statement of the class."""
        return self.statement.blocks[0].statements[0]

    @property
    def first_method(self) -> Statement:
        """What a constructor may stand in front of: the first method, or else the first statement behind the text."""
        statements = self.statement.blocks[0].statements
        after_doc = statements[1] if statements[0].is_text and len(statements) > 1 else statements[0]
        return next((s for s in statements if s.kind is Kind.ROUTINE), after_doc)

    def object_to_use(self, reference: Reference) -> None:
        if is_declaration(reference):
            return
        if self.receiver_at(reference) is None:
            reason = f"`{reference.name}` is used here where no object of {self.move.class_name} is at hand"
            self.object(reference.start, reason, _ADVICE)
        elif is_hard_to_echo(self.module, reference):
            reason = f"`{reference.name}` stands in a template that shows its own text"
            self.object(reference.start, reason, "Write the text out before the value.")

    def receiver_at(self, reference: Reference) -> str | None:
        """The name of the receiver where a reference of the class stands."""
        method = self.method_around(reference.scope)
        receiver = method.routine.receiver if method is not None and method.routine is not None else None
        is_there = receiver is not None and reference.scope.find(receiver.name) is receiver
        return receiver.name if receiver is not None and is_there else None

    def method_around(self, scope: Scope | None) -> Scope | None:
        """The scope around one that stands in a class of the family itself."""
        while scope is not None and scope.parent not in self.scopes:
            scope = scope.parent
        return scope

    def object_to_mention(self, one: Relative, reference: Reference) -> None:
        """Every object of the class must be made where the variable has its value already."""
        home = one.scope.name
        call = self.call_of(reference)
        if reference.binds or self.is_about_heirs(reference) or (call is None and self.is_harmless(reference)):
            return
        if call is None or call.inside is None:
            self.object(reference.start, f"{home} is used here otherwise than to make an object", _ADVICE)
        elif not self.has_names and not self.gets_all(one, call):
            self.object(reference.start, f"{home} is given fewer or more than it takes here", _ADVICE)
        elif any(a.stars == "**" for a in call.arguments) or reference.scope.kind is ScopeKind.CLASS:
            self.object(reference.start, f"what {home} gets here cannot be seen", _ADVICE)
        elif self.home_of(reference.scope) is not None:
            if self.receiver_at(reference) is None:
                self.object(reference.start, f"{home} makes an object here without having one", _ADVICE)
        elif reference.scope.find(self.move.variable) is not self.symbol:
            self.object(reference.start, f"`{self.move.variable}` means something else here", "Rename that.")
        elif not self.is_ready(reference):
            self.object(reference.start, f"`{self.move.variable}` may have no value yet here", _ADVICE)

    def is_about_heirs(self, reference: Reference) -> bool:
        """Whether a class is named where another says that it comes from it, or lets it set up an object."""
        if any(reference in heir.heading for heir in self.family[1:]):
            return True
        return any(call.callee is reference for heir in self.family for call in heir.beginnings)

    def gets_all(self, one: Relative, call: Call) -> bool:
        """Whether a call gives one value for each parameter, and the constructor asks for them by name alone."""
        function = one.setting_up
        counts = function is not None and uses_own(function, beside=function.receiver)
        return gives_each(call, function.parameters if function is not None else []) and not counts

    def is_harmless(self, reference: Reference) -> bool:
        if reference.path:
            first = reference.path[0]
            is_member = first.kind is AccessKind.ATTRIBUTE and first.name is not None
            is_member = is_member and first.name != self.dialect.rules.count_attribute
            return is_member and not self.dialect.rules.is_implicit_method(first.name or "")
        if self.dialect.rules.asks_kind(self.module, reference):
            return True
        calls = reference.statement.calls if reference.statement is not None else ()
        given = [c for c in calls if any(a.span == reference.span for a in c.arguments)]
        callees = [call.callee for call in given]
        only_reads = self.dialect.library.only_reads_arguments
        return bool(given) and all(c is not None and not c.path and only_reads(c.name) for c in callees)

    def is_ready(self, reference: Reference) -> bool:
        if not self.symbol.bindings:
            return False
        made = self.symbol.bindings[0].statement
        assert made is not None and reference.statement is not None
        actor = actor_of(reference.scope)
        first = reference.statement.outermost.index if actor is None else self.effects.first_run_of(actor)
        return first is None or first > made.index

    # -- writing

    def write_constructor(self) -> None:
        unit, function = self.layout.indent, self.constructor
        if function is None or function.receiver is None:
            first = self.first_method
            margin = self.layout.margin(first)
            frame = self.writer.constructor_frame([self.field], margin, unit)
            kept = self.keeping(self.writer.receiver, margin + unit)
            at = self.layout.lines(first).start
            apart = "" if first is self.body_start or self.layout.is_blank_above(at) else "\n"
            self.rewriter.insert(at, apart, frame.head, *kept, frame.tail, "\n")
            return
        self.rewriter.add_parameter(function, self.field)
        before = self.beginning(function)
        if spans := self.gaps:
            kept = self.keeping(function.receiver.name, self.layout.margin(function.statement) + unit)
            for span, pieces in zip(spans, broken(self.module, function, kept, len(before)), strict=True):
                self.rewriting.changes.replace(self.module.path, span, *pieces)
            return
        first_statement = function.body.statements[0]
        kept = self.keeping(function.receiver.name, self.layout.margin(first_statement))
        at = self.layout.own_lines(before[-1]).end if before else self.layout.lines(first_statement).start
        self.rewriter.insert(at, *kept)

    def beginning(self, function: Function) -> list[Statement]:
        """The text of a constructor, what must come before it can keep anything, and the plain fields that it sets."""
        statements = function.body.statements
        doc = statements[:1] if function.doc is not None else []
        if self.dialect.rules.base_comes_first:
            begun = [call.end for call in self.family[0].beginnings]
            doc = [s for s in statements if s.start < max(begun, default=0)]
        return doc + list(takewhile(self.only_keeps, statements[len(doc) :]))

    def only_keeps(self, statement: Statement) -> bool:
        """Whether a statement of the constructor sets a plain field of the object, and asks nothing of the script."""
        asks = statement.calls or any(r in self.uses for r in statement.references)
        if asks or self.bases or not self.has_lines(statement):
            return False
        return any(self.is_plain_field(r) and lone_value(r) is not None for r in statement.references)

    def has_lines(self, statement: Statement) -> bool:
        """Whether nothing stands beside a statement of the constructor, now or when that is broken into lines."""
        return self.layout.stands_alone(statement) or bool(self.gaps)

    def is_plain_field(self, reference: Reference) -> bool:
        is_own = receiver_class(reference.symbol) is self.scope and len(reference.path) == 1
        name = reference.path[0].name if is_own else None
        return name in self.members.fields and name not in self.inherited

    def keeping(self, receiver: str, margin: str) -> list[Piece]:
        """The line by which an object keeps what it is given."""
        return [margin, *self.writer.assignment(self.writer.member(receiver, self.field), [self.field])]

    def rewrite_use(self, reference: Reference) -> None:
        if is_declaration(reference):
            self.rewriter.drop_declaration(reference)
            return
        text = self.writer.member(self.receiver_at(reference) or "", self.field)
        home = self.home_of(reference.scope)
        assert home is not None
        self.rewriter.replace(reference, text, Member(home.scope.name, self.field))

    def write_heir(self, heir: Relative) -> None:
        """What comes from the class takes the same, and hands it on."""
        if heir.constructor is None or heir.base is None:
            return
        self.rewriter.add_parameter(heir.constructor, self.field)
        for call in heir.beginnings:
            self.give(heir.base, call, self.field)

    def write_argument(self, one: Relative, call: Call) -> None:
        assert call.callee is not None
        value = self.move.variable
        if self.home_of(call.callee.scope) is not None:
            value = self.writer.member(self.receiver_at(call.callee) or "", self.field)
        self.give(one, call, value)

    def give(self, one: Relative, call: Call, value: str) -> None:
        function = one.setting_up
        by_keyword = function is not None and takes_by_keyword(function.parameters)
        self.rewriter.add_argument(call, self.field, value, by_keyword=by_keyword)


def _by_hand(program: Program, script: Path, given: Given) -> list[Supply]:
    return [Supply(script, given["class"], given["variable"])]


MOVE = Description(
    name="supply",
    place=50,
    summary=(
        "A class of the script gets in its constructor what it used of the script.\n"
        "Only what is bound once can be given: an object, or a function."
    ),
    term="Inject Dependency through Constructor",
    help="Let a class of the script take an object or a function in its constructor, and use that.",
    parameters=(
        StepParameter("class", Takes.ONE, "CLASS"),
        StepParameter("variable", Takes.ONE, "VARIABLE"),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="Gull log",
        before="""\
log = []


class Gull:
    def __init__(self, name):
        self.name = name

    def cry(self):
        log.append(self.name)


Gull("Ada").cry()
print(log)
""",
        after={
            "harbour.py": """\
log = []


class Gull:
    def __init__(self, name, log):
        self.name = name
        self.log = log

    def cry(self):
        self.log.append(self.name)


Gull("Ada", log).cry()
print(log)
""",
        },
    ),
)
