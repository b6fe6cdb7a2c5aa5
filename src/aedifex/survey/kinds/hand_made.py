"""Functions that make objects, and get the methods of these one by one: classes that are set up by hand."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.written import Inheritance
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Symbol
from aedifex.program.model.statements import Function, Lambda, Statement
from aedifex.program.structure.early_uses import first_to_make
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import Obstacle, place_obstacles
from aedifex.source.text import Span
from aedifex.survey.kinds.hand_made_bases import HandMadeBase, base_calls

_STEPS = 2
_ON_OBJECT = frozenset({Sense.CALL, Sense.MEMBER, Sense.SET, Sense.CHOICE})
_WEIGHING = frozenset(
    {Sense.OPERATION, Sense.SUM, Sense.TEXT, Sense.EQUAL, Sense.SAME, Sense.KIND, Sense.NOT, Sense.TEST, Sense.WITHIN}
)
_ADVICE = "Leave it as it is, or write it as a class by hand."


@dataclass(frozen=True)
class HungMethod:
    """A method that a statement hangs on what all objects share: alone, or in a table with others.

    `whole` spans its name, at `named`, with the `routine`; `lines` are all that stands with it.
    """

    name: str
    named: Span
    statement: Statement
    routine: Lambda
    whole: Span
    lines: Span

    @property
    def is_alone(self) -> bool:
        """Whether its statement hangs no other."""
        return self.whole == self.statement.span


@dataclass(frozen=True)
class HandMade:
    """A function that is called as a class is, with the methods of its objects.

    Statements set all `methods` at once as `tables`, and `restored` say what makes the objects; `base` is what it
    inherits from, and `heirs` inherit from it.
    """

    module: Module
    function: Function
    methods: tuple[HungMethod, ...]
    tables: tuple[Statement, ...] = ()
    restored: tuple[Statement, ...] = ()
    base: HandMadeBase | None = None
    heirs: tuple[HandMade, ...] = ()

    @property
    def symbol(self) -> Symbol:
        """What the function is bound to."""
        return self.function.symbol

    @property
    def family(self) -> list[HandMade]:
        """It, and all that inherits from it."""
        return [self, *(one for heir in self.heirs for one in heir.family)]

    @property
    def inheritances(self) -> list[Inheritance]:
        """The statements that say what it inherits from: one, or none."""
        return [self.base.link] if self.base is not None else []

    @cached_property
    def uses(self) -> list[Reference]:
        """All uses of the function but those that hang a method on it, or are about what inherits from it."""
        links = [link.statement for one in (self, *self.heirs) for link in one.inheritances]
        settled = [*self.tables, *self.restored, *links]
        called = [call.use for heir in self.heirs if heir.base is not None for call in heir.base.calls]
        others = (r for r in self.symbol.references if r is not self.function.named and r not in called)
        return [r for r in others if r.statement not in settled and not self._hangs(r)]

    def _hangs(self, use: Reference) -> bool:
        return use.path_mode is Mode.WRITE and any(use.statement is method.statement for method in self.methods)

    @property
    def statements(self) -> list[Statement]:
        """All that would be in the class: the function, and what hangs its methods on it."""
        links = [link.statement for link in self.inheritances]
        hanging = [*self.tables, *self.restored, *links, *(m.statement for m in self.methods)]
        return list(dict.fromkeys([self.function.statement, *hanging]))

    @cached_property
    def makes(self) -> list[Reference]:
        """The uses that make an object."""
        return [r for r in self.uses if self.module.dialect.rules.makes_object(self.module, r)]

    @cached_property
    def obstacles(self) -> list[Obstacle]:
        """Why it cannot be written as a class, with all that inherits from it."""
        last = max(statement.index for one in self.family for statement in one.statements)
        return [*(o for one in self.family for o in one._own_obstacles(last)), *self._shadows(())]

    def _own_obstacles(self, last: int) -> Iterator[Obstacle]:
        for way in (
            self._other_uses,
            self._doubled,
            self._handed_on,
            self._strictness,
            self._shared_lines,
            self._shown,
        ):
            yield from way()
        yield from self._early_uses(last)
        yield from self._named_anew()
        yield from self._known_elsewhere()
        if self.base is not None:
            yield from self.base.obstacles()

    def _shadows(self, above: tuple[Reference, ...]) -> Iterator[Obstacle]:
        """What a class has itself is found in those that inherit from it as well."""
        names = {use.path[0].name for use in above if use.path} - {self.module.dialect.rules.methods_hang_on}
        for use in self.uses:
            if use.path and use.path[0].name in names:
                yield Obstacle(use.start, "what it inherits from has a member of this name, too", _ADVICE)
        for heir in self.heirs:
            yield from heir._shadows((*above, *self.uses))

    def _other_uses(self) -> Iterator[Obstacle]:
        rules = self.module.dialect.rules
        for use in self.uses:
            is_member = bool(use.path) and not rules.hands_on(use) and not self._is_whole(use)
            if use not in self.makes and not is_member and not rules.asks_kind(self.module, use):
                yield Obstacle(use.start, f"`{self.function.name}` is used here otherwise than classes are", _ADVICE)

    def _is_whole(self, use: Reference) -> bool:
        """Whether what all objects share is used as a whole: it is replaced, or its members are looked at."""
        return len(use.path) == 1 and self._is_shared_by_all(use)

    def _is_shared_by_all(self, use: Reference) -> bool:
        return use.path[0].name == self.module.dialect.rules.methods_hang_on

    def _doubled(self) -> Iterator[Obstacle]:
        replaced = [link.statement for link in self.inheritances if link.replaces]
        for statement in (*self.tables, *replaced):
            above = (r for r in self.symbol.references if r.start < statement.start and r.path)
            for use in filter(self._is_shared_by_all, above):
                yield Obstacle(use.start, "what all objects share is replaced further down", _ADVICE)
        names = [method.name for method in self.methods]
        for number, method in enumerate(self.methods):
            if method.name in names[:number]:
                yield Obstacle(method.named.start, f"`{method.name}` gets another meaning here", _ADVICE)

    def _strictness(self) -> Iterator[Obstacle]:
        for statement in self.statements:
            yield from place_obstacles(self.module, statement.span)

    def _shared_lines(self) -> Iterator[Obstacle]:
        links = [link.statement for link in self.inheritances]
        for statement in (*self.restored, *links):
            if not Layout.of(self.module).stands_alone(statement):
                yield Obstacle(statement.start, "this shares its line with something else", _ADVICE)

    def _early_uses(self, last: int) -> Iterator[Obstacle]:
        """Objects are made when all is there, and the function stands above all that asks for it."""
        if self.uses:
            first = first_to_make(self.module, [use.start for use in self.uses])
            if first.index < self.function.statement.index:
                yield Obstacle(first.start, f"`{self.function.name}` is asked for here, above where it stands", _ADVICE)
        if not self.makes:
            return
        first = first_to_make(self.module, [use.start for use in self.makes])
        if first.index <= last:
            yield Obstacle(first.start, f"`{self.function.name}` makes an object here before all is there", _ADVICE)

    def _shown(self) -> Iterator[Obstacle]:
        """Methods of classes do not show where names of members are gone through."""
        at = self.module.dialect.rules.walks_over_names(self.module)
        if (self.methods or self.restored) and at is not None:
            yield Obstacle(at, "the names of an object's members are gone through here, methods among them", _ADVICE)

    def _named_anew(self) -> Iterator[Obstacle]:
        """In a table of their own objects are not told what made them, unless it says so."""
        at = self.module.dialect.rules.shows_maker(self.module)
        silent = [link.statement for link in self.inheritances if not link.says_maker]
        for statement in (*self.tables, *silent):
            says = any(use.statement is statement and use.start > statement.start for use in self.symbol.references)
            if at is not None and not says and not self.restored:
                yield Obstacle(at, "what made an object may be shown here, and it is not said", _ADVICE)

    def _handed_on(self) -> Iterator[Obstacle]:
        """A method that is called without its object finds none in a class, and something else before."""
        names = {method.name for method in self.methods}
        surroundings = Surroundings.of(self.module)
        members = (e for tree in surroundings.trees for e in tree.walk() if e.sense is Sense.MEMBER)
        for member in (e for e in members if e.name in names):
            if not _is_left_there(member, surroundings.around(member)):
                reason = f"`{member.name}` is handed on without its object here"
                yield Obstacle(member.start, reason, _ADVICE)

    def _known_elsewhere(self) -> Iterator[Obstacle]:
        """What is found by its name is found otherwise where it is a class."""
        name, statement = self.function.name, self.function.statement
        mentions = (use for use in self.module.references if any(step.name == name for step in use.path))
        if self.module.is_known_outside(name):
            yield Obstacle(statement.start, f"`{name}` is found by its name from outside", _ADVICE)
        for use in mentions:
            yield Obstacle(use.start, f"`{name}` may be found by its name here", _ADVICE)


class HandMadeClasses(Analysis):
    """Finds them in a file, in the order of the text; those that inherit from another come with that."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.routines = {r.scope.start: r for r in module.routines if isinstance(r, Lambda)}
        are_any = module.dialect.rules.methods_hang_on and not module.hindrances
        self.functions = {f.symbol: f for f in (module.functions if are_any else ()) if self._may_make(f)}
        self.links = {link.heir.symbol: link for link in self._links()}
        firsts = [self._made(function) for symbol, function in self.functions.items() if symbol not in self.links]
        self.found = [made for made in firsts if made.methods or made.makes or made.heirs]

    def _may_make(self, function: Function) -> bool:
        is_plain = not function.is_generator and not function.is_async and not function.is_method
        return is_plain and function.statement.block is self.module.block

    def _links(self) -> Iterator[Inheritance]:
        """The inheritances among them: from what stands further up, and from one alone."""
        found = list(self.module.dialect.rules.inheritances(self.module)) if self.functions else []
        for link in found:
            heir, base = (self.functions.get(use.symbol) for use in (link.heir, link.base))
            is_only = sum(other.heir.symbol is link.heir.symbol for other in found) == 1
            if is_only and heir is not None and base is not None and base.statement.index < heir.statement.index:
                yield link

    def _made(self, function: Function) -> HandMade:
        tables = list(self._tables(function))
        listed = [method for statement, table in tables for method in self._listed(statement, table)]
        methods = (*self._alone(function), *listed)
        link = self.links.get(function.symbol)
        heirs = [self.functions[heir] for heir, other in self.links.items() if other.base.symbol is function.symbol]
        return HandMade(
            self.module,
            function,
            methods,
            tuple(statement for statement, _ in tables),
            tuple(self._restored(function)),
            self._base(function, link, methods) if link is not None else None,
            tuple(map(self._made, heirs)),
        )

    def _base(self, heir: Function, link: Inheritance, methods: Sequence[HungMethod]) -> HandMadeBase:
        base = self.functions[link.base.symbol]
        scopes = {method.routine.scope for method in methods}
        return HandMadeBase(heir, base, link, tuple(base_calls(self.module, heir, scopes, base)))

    def _restored(self, function: Function) -> Iterator[Statement]:
        """The statements that say again what makes the objects, after all that these share was set anew."""
        for use, statement, value in self._settings(function, _STEPS):
            said, name = self.module.reference_at.get(value.start), use.path[1].name or ""
            is_it = said is not None and said.span == value and said.symbol is function.symbol
            if is_it and self.module.dialect.rules.is_constructor(name):
                yield statement

    def _settings(self, function: Function, steps: int) -> Iterator[tuple[Reference, Statement, Span]]:
        """Where what all objects share, or a part of it, is set at the top level: the use, the statement, the value."""
        for use in function.symbol.references:
            statement = use.statement
            is_set = len(use.path) == steps and use.path_mode is Mode.WRITE
            is_set = is_set and use.path[0].name == self.module.dialect.rules.methods_hang_on
            given = statement.assignment if statement is not None and is_set else None
            if given is None or given.value is None or statement is None or statement.block is not self.module.block:
                continue
            if use.start == statement.start:
                yield use, statement, Span(given.value.start, given.value.end)

    def _alone(self, function: Function) -> Iterator[HungMethod]:
        for use, statement, value in self._settings(function, _STEPS):
            routine, name = self.routines.get(value.start), use.path[1].name
            if routine is None or name is None or not self._is_method(name, routine):
                continue
            end = use.path[1].end
            named, lines = Span(end - len(name.encode()), end), Layout.of(self.module).lines(statement)
            yield HungMethod(name, named, statement, routine, statement.span, lines)

    def _tables(self, function: Function) -> Iterator[tuple[Statement, Expression]]:
        """The statements that set all that objects share, to a table of nothing but methods, and this."""
        for _, statement, value in self._settings(function, 1):
            table = Surroundings.of(self.module).by_span.get(value)
            if table is None or table.sense is not Sense.TABLE:
                continue
            if all(self._is_entry(function, *pair) and self._stands_alone(*pair) for pair in _pairs(table)):
                yield statement, table

    def _is_entry(self, function: Function, key: Expression, value: Expression) -> bool:
        if key.name is not None and self.module.dialect.rules.is_constructor(key.name):
            return value.reference is not None and value.reference.symbol is function.symbol
        routine = self.routines.get(value.start)
        return key.name is not None and routine is not None and self._is_method(key.name, routine)

    def _listed(self, statement: Statement, table: Expression) -> Iterator[HungMethod]:
        source = self.module.source
        begin = source.line_end(table.start)
        for key, entry in _pairs(table):
            whole = Span(key.start, entry.end)
            end = source.line_end(whole.end)
            routine = self.routines.get(entry.start)
            if routine is not None and key.name is not None:
                yield HungMethod(key.name, key.span, statement, routine, whole, Span(begin, end))
            begin = end

    def _is_method(self, name: str, routine: Lambda) -> bool:
        rules = self.module.dialect.rules
        is_function = routine.body is not None and rules.has_receiver(self.module, routine)
        return is_function and not rules.has_meaning(name)

    def _stands_alone(self, key: Expression, value: Expression) -> bool:
        """Whether an entry has lines of its own."""
        source = self.module.source
        before = source.slice(Span(source.line_start(key.start), key.start))
        behind = source.slice(Span(value.end, source.line_end(value.end)))
        return not before.strip() and not behind.strip(", \t\r\n")


def _is_left_there(member: Expression, around: Expression | None) -> bool:
    """Whether a member is called, set, or no more than weighed, so that nobody else gets it."""
    if around is None:
        return False
    if around.parts[0] is member and around.sense in _ON_OBJECT:
        return True
    return around.sense in _WEIGHING or (around.sense is Sense.UPDATE and around.operator is not None)


def _pairs(table: Expression) -> list[tuple[Expression, Expression]]:
    return list(zip(table.parts[::2], table.parts[1::2], strict=True))
