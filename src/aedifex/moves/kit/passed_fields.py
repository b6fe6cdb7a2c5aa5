"""Which fields that stay in a class a method can be given as arguments, when it goes to another class."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.design.drafting.naming import CONTAINER_WORDS
from aedifex.moves.kit.field_values import FieldValues
from aedifex.program.analysis.concurrency import runs_beside
from aedifex.program.analysis.members import Members, Mention
from aedifex.program.model.names import AccessKind, Form, Mode, Reference, ScopeKind
from aedifex.program.model.statements import Function, ParameterKind
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.program.structure.own_names import uses_own

_MOST_PASSED = 4
_OF_SCRIPT = frozenset({Form.ROUTINE, Form.CLASS})


@dataclass(frozen=True, slots=True)
class PassedField:
    """A field that stays, or one of an object in such a field, by its steps, and the parameter that it becomes."""

    steps: tuple[str, ...]
    parameter: str


class PassedFields:
    """What the methods that go read of what stays, and whether its value when they begin is the value that they read.

    `going` are the names of the members that go.
    """

    def __init__(self, members: Members, going: Collection[str]) -> None:
        self.members = members
        self.module = members.module
        self.going = going
        self._inner: dict[str, Members | None] = {}

    def reads(self, function: Function) -> list[Reference]:
        """Where a method names its object for something else than what goes."""
        if function.receiver is None:
            return []
        own = (r for r in function.receiver.references if r.mode.reads)
        return [r for r in own if not r.path or r.path[0].name not in self.going]

    def of(self, function: Function) -> list[PassedField]:
        """What a method must be given, in the order of its text."""
        steps = dict.fromkeys(self.steps_of(reference) for reference in self.reads(function) if reference.path)
        names: list[str] = []
        for path in steps:
            own = path[0] if path[-1] in CONTAINER_WORDS else path[-1]
            names.append(self.module.dialect.naming.joined(*path) if own in names else own)
        return [PassedField(path, name.lstrip("_")) for path, name in zip(steps, names, strict=True)]

    def steps_of(self, reference: Reference) -> tuple[str, ...]:
        """The steps to the field that is read: of an object that a field always holds, it is that object's."""
        names = [step.name or "" for step in reference.path]
        inner = self._held(names[0]) if names else None
        return tuple(names[:2] if inner is not None and len(names) > 1 and names[1] in inner.fields else names[:1])

    def objections(self, function: Function) -> Iterator[tuple[int, str]]:
        """Why a method cannot be given what it reads of what stays: places with plain sentences."""
        reads = self.reads(function)
        if not reads:
            return
        name = function.name
        for reference in reads:
            reason = self.why_not(reference)
            if reason:
                yield reference.start, f"`{name}` {reason}"
                return
        passed = self.of(function)
        if len(passed) > _MOST_PASSED:
            yield function.statement.start, f"`{name}` would have to be given {len(passed)} values"
        for value in passed:
            if any(scope.find(value.parameter) is not None for scope in function.scope.walk()):
                yield function.statement.start, f"`{name}` has a name `{value.parameter}` already"
        if function.is_postponed or not self._takes_more(function):
            yield function.statement.start, f"`{name}` cannot gain a parameter"
        if runs_beside(self.module):
            yield function.statement.start, f"another thread may change what `{name}` reads"
        yield from self._object_to_time(function)
        yield from self._object_to_calls(function)

    def _takes_more(self, function: Function) -> bool:
        """Whether one parameter more changes nothing for the others: none takes all, and they are not counted.

        Where arguments have names, the new one is told from the rest.
        """
        kinds = {parameter.kind for parameter in function.parameters}
        if self.module.dialect.writer.named_argument("name", ""):
            return ParameterKind.KEYWORD_REST not in kinds
        return ParameterKind.REST not in kinds and not uses_own(function, function.receiver)

    def why_not(self, reference: Reference) -> str:
        """Why what is read at a reference cannot be given as an argument; empty where it can."""
        steps = self.steps_of(reference)
        if not steps or reference.path[0].kind is not AccessKind.ATTRIBUTE:
            return f"hands its object on, which stays in {self.members.scope.name}"
        if is_hard_to_echo(self.module, reference):
            return f"shows the text `{steps[0]}` in a template"
        if reference.scope.is_apart_from(reference.symbol.scope):
            return f"reads `{steps[0]}` in code that runs later"
        what = ".".join(steps)
        is_part = len(steps) == 1 and self._held(steps[0]) is not None
        if is_part or steps[0] not in self.members.fields:
            return f"uses `{what}`, which stays in {self.members.scope.name}"
        if len(reference.path) == len(steps) and reference.path_mode is not Mode.READ:
            return f"sets or calls `{what}`, which stays in {self.members.scope.name}"
        if not all(self._is_always_there(home, field) for home, field in self._homes(steps)):
            return f"reads `{what}`, which stays and may not be there"
        return ""

    def _homes(self, steps: Sequence[str]) -> Iterator[tuple[Members, str]]:
        """Each step of a path with the class that has it."""
        yield self.members, steps[0]
        inner = self._held(steps[0])
        if len(steps) > 1 and inner is not None:
            yield inner, steps[1]

    def _is_always_there(self, home: Members, field: str) -> bool:
        is_removed = any(m.reference.path_mode is Mode.DELETE and m.is_write for m in home.mentions(field))
        return bool(FieldValues(home, [field]).found) and not is_removed and home.strangers(field) == 0

    def _held(self, field: str) -> Members | None:
        """The members of the class of the one object that a field holds."""
        if field not in self._inner:
            self._inner[field] = self._members_held(field)
        return self._inner[field]

    def _members_held(self, field: str) -> Members | None:
        scope = self.members.all.held_in(self.members.scope, field) if field in self.members.fields else None
        if scope is None or self.members.all.classes[scope][0] is not self.module:
            return None
        inner = Members(self.members.all, self.module, scope)
        return inner if inner.is_plain else None

    # -- the value when the method begins is the value that it reads

    def _object_to_time(self, function: Function) -> Iterator[tuple[int, str]]:
        """Nothing that runs while the method does may set the field, and no object may be without it yet."""
        for value in self.of(function):
            for home, field in self._homes(value.steps):
                for mention in home.mentions(field):
                    if mention.is_write and not self._is_outside_of(mention, function):
                        yield function.statement.start, f"`{field}` may change while `{function.name}` runs"
                        return
        constructor = self.members.constructor
        if constructor is not None and any(self._is_method_of_object(r) for r in self._used_in(constructor)):
            yield constructor.statement.start, f"`{function.name}` may be called before all fields are set"

    def _is_outside_of(self, mention: Mention, function: Function) -> bool:
        """Whether a field is set where nothing of the method's run leads: in no special method, and not in itself."""
        routine = mention.reference.scope.home.routine
        if mention.module is not self.module or routine is None:
            return mention.module is self.module
        if routine is function or routine.name in self.going or not isinstance(routine, Function):
            return False
        rules = self.module.dialect.rules
        is_called_by_name = not rules.has_meaning(routine.name) and not routine.statement.decorators
        return rules.is_constructor(routine.name) or is_called_by_name

    def _used_in(self, function: Function) -> list[Reference]:
        return [] if function.receiver is None else function.receiver.references[1:]

    def _is_method_of_object(self, reference: Reference) -> bool:
        return not reference.path or reference.path[0].name not in self.members.fields

    def _object_to_calls(self, function: Function) -> Iterator[tuple[int, str]]:
        """The method, and what it calls of what goes, must call nothing of the script, which could set the field."""
        for each in [function, *(f for f in self.members.functions if f.name in self.going)]:
            for reference in self.module.references_within(each.statement.span):
                if reference is not each.named and self._may_lead_back(reference, each):
                    at, name = reference.start, reference.name
                    yield at, f"what `{name}` runs in `{each.name}` may change what `{function.name}` reads"
                    return

    def _may_lead_back(self, reference: Reference, function: Function) -> bool:
        symbol = reference.symbol.final
        is_of_script = bool(symbol.forms & _OF_SCRIPT) and symbol.scope.kind is not ScopeKind.OUTSIDE
        is_given = symbol.scope.frame is function.scope and reference.mode is Mode.CALL and not reference.path
        own = reference.symbol is function.receiver and len(reference.path) == 1
        is_method = reference.path_mode is Mode.CALL and reference.path[-1].name in self._method_names
        if own and reference.path[0].name in self.members.fields and reference.path_mode is Mode.CALL:
            return True
        return is_of_script or is_given or (is_method and not own)

    @cached_property
    def _method_names(self) -> frozenset[str]:
        """The names of all methods of the program."""
        return frozenset(name for scope in self.members.all.classes for name in scope.symbols)
