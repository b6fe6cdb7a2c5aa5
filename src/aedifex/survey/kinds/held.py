"""Lists of things of a library that a script makes, goes over and tells what to do."""

from __future__ import annotations

from dataclasses import dataclass, field

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.flow import Flow
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.program.structure.state import state
from aedifex.source.text import Span
from aedifex.survey.kinds.library_things import maker_of
from aedifex.survey.kinds.records import several_in
from aedifex.survey.kinds.walks import builtin_called
from aedifex.survey.words import words_of

_SAME = frozenset({Handling.SAME, Handling.MAKES, Handling.COPIES, Handling.SORTS})
_FEWEST_USES = 2


@dataclass(eq=False)
class HeldKind:
    """Things of a library in a list, which are made by calls of one of its classes.

    `holder` is the list; `made` are the expressions that give it its elements, `used` the names of elements where these
    are used as what they are, `asked` the elements that are reached by a number, `shared` all names of elements that
    stand for what is made, too. `maker` is the class of the library.
    """

    module: Module
    holder: Symbol
    maker: str = ""
    made: list[Expression] = field(default_factory=list)
    used: list[Reference] = field(default_factory=list)
    asked: list[Expression] = field(default_factory=list)
    shared: list[Reference] = field(default_factory=list)

    @property
    def holders(self) -> list[str]:
        """By what such a thing is known: the list that has it."""
        return [several_in(self.holder.name)]

    @property
    def key(self) -> str:
        """What such a thing is called where an object has it: by its class in the library."""
        return self.module.dialect.naming.member_name(words_of(self.maker))


class HeldKinds(Analysis):
    """Finds the lists of which every use is understood."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        lists = [] if module.hindrances else [s for s in state(module) if not module.is_known_outside(s.name)]
        found = (_Reader(module, symbol).read() for symbol in lists)
        self.kinds = [kind for kind in found if kind is not None and len(kind.used) >= _FEWEST_USES]


def held_kinds(module: Module) -> list[HeldKind]:
    """The lists of things of a library that a script holds, in the order of the text."""
    return HeldKinds.of(module).kinds


class _UnclearError(Exception):
    """Something is done with a list of which it is not certain what that means."""


class _Reader:
    def __init__(self, module: Module, holder: Symbol) -> None:
        self.module = module
        self.kind = HeldKind(module, holder)
        self.library = module.dialect.library
        self.surroundings = Surroundings.of(module)
        self.kept: set[Expression] = set()
        self.walked: set[Expression] = set()
        self.walks: list[tuple[Expression, Expression]] = []

    def read(self) -> HeldKind | None:
        """The kind of a list; None where it is something else, or a use of it is not understood."""
        try:
            for reference in self.kind.holder.references:
                if reference.form is not Form.DECLARATION:
                    self.read_use(reference)
            for header, target in self.walks:
                self.read_walk(header, target)
            if self.kept - self.walked:
                raise _UnclearError
        except _UnclearError:
            return None
        names = [reference.name for reference in self.kind.used]
        if not self.kind.made or hindrance_obstacles(self.module, [self.kind.holder.name, *names]):
            return None
        return self.kind

    # -- what is done with the list

    def read_use(self, reference: Reference) -> None:
        use = self.surroundings.of_reference(reference)
        around = self.surroundings.around(use) if use is not None else None
        if use is None or around is None or is_hard_to_echo(self.module, reference):
            raise _UnclearError
        if around.sense is Sense.SET:
            self.read_setting(around, use)
        elif around.sense is Sense.MEMBER:
            self.read_method(around)
        elif around.sense is Sense.PART and around.parts[0] is use:
            self.read_part(around)
        elif around.sense is Sense.WITHIN and around.parts[1] is use:
            self.keep(around.parts[0])
        elif not self.is_asked(use) and self.handling(around) is not Handling.COUNTS and not self.is_walked(use):
            raise _UnclearError

    def is_asked(self, use: Expression) -> bool:
        """Whether a list is only asked whether anything is in it, in a condition."""
        around = self.surroundings.around(use)
        while around is not None and around.sense is Sense.EITHER:
            around = self.surroundings.around(around)
        return around is not None and around.sense in (Sense.TEST, Sense.NOT)

    def read_setting(self, setting: Expression, use: Expression) -> None:
        """A new list: of things made in it, or of those of the old one that are to stay."""
        *targets, value = setting.parts
        if targets != [use]:
            raise _UnclearError
        if value.sense is Sense.LIST:
            for part in value.parts:
                self.add(part)
        elif value.sense is Sense.EACH and len(value.parts) > 1:
            element, walk = value.parts[0], value.parts[1]
            is_sifted = walk.sense is Sense.WALK and self.is_own(walk.parts[1])
            target = walk.parts[0].reference if is_sifted else None
            if target is not None and is_named(element, target.symbol):
                self.kept.add(element)
            elif is_sifted:
                raise _UnclearError
            else:
                self.add(element)
        else:
            raise _UnclearError

    def read_method(self, member: Expression) -> None:
        call = self.surroundings.around(member)
        if call is None or call.sense is not Sense.CALL or call.parts[0] is not member or any(call.names):
            raise _UnclearError
        handling, arguments = self.library.handling_by_method(member.name or ""), call.parts[1:]
        around = self.surroundings.around(call)
        if handling is Handling.ADDS and len(arguments) == 1:
            self.add(arguments[0])
        elif handling is Handling.INSERTS and len(arguments) == 2:
            self.add(arguments[1])
        elif handling is Handling.COMPARES and len(arguments) == 1:
            self.keep(arguments[0])
        elif handling is Handling.TAKES and (around is None or around.sense is Sense.ALONE):
            return
        elif handling is not Handling.EMPTIES and not (handling is Handling.COPIES and self.is_walked(member)):
            raise _UnclearError

    def read_part(self, part: Expression) -> None:
        """An element by its number, or the elements between two numbers."""
        around = self.surroundings.around(part)
        if part.parts[1].sense is Sense.SLICE or around is None:
            raise _UnclearError
        if around.sense is Sense.SET and part in around.parts[:-1]:
            if len(around.parts) != 2:
                raise _UnclearError
            self.add(around.parts[1])
        elif around.sense in (Sense.UPDATE, Sense.WALK, Sense.NAMED) and around.parts[0] is part:
            raise _UnclearError
        elif around.sense is not Sense.DELETE:
            self.kind.asked.append(part)

    def is_walked(self, use: Expression) -> bool:
        """Whether a loop goes over the list, or over a copy of it; the loop is noted."""
        inner, around = use, self.surroundings.around(use)
        while around is not None and self.is_copy(around, inner):
            inner, around = around, self.surroundings.around(around)
        if around is None or around.sense is not Sense.WALK or around.parts[1] is not inner:
            return False
        target = around.parts[0]
        if self.handling(inner) is Handling.NUMBERED:
            if target.sense is not Sense.TUPLE or len(target.parts) != 2:
                return False
            target = target.parts[1]
        if target.sense is not Sense.NAME:
            return False
        self.walks.append((around, target))
        return True

    def is_copy(self, around: Expression, inner: Expression) -> bool:
        """Whether an expression holds the same elements as what is in it."""
        if around.sense is Sense.SLICE:
            return around.parts[0] is inner
        if around.sense is Sense.CALL and around.parts[0] is inner:
            return inner.sense is Sense.MEMBER
        is_given = around.sense is Sense.CALL and around.parts[1:] == [inner] and not any(around.names)
        return is_given and self.handling(around) in {*_SAME, Handling.NUMBERED}

    def is_own(self, container: Expression) -> bool:
        """Whether an expression names the list, or a copy of it."""
        return sum(is_named(part, self.kind.holder) for part in container.walk()) == 1

    def handling(self, call: Expression) -> Handling | None:
        """What a builtin function does with what it is given."""
        return self.library.handling_by_function(builtin_called(call))

    # -- elements

    def add(self, value: Expression) -> None:
        """An element is made here, or has been made right above and is known by its name."""
        maker = maker_of(self.surroundings, value)
        if not maker or self.kind.maker not in ("", maker):
            raise _UnclearError
        self.kind.maker = maker
        self.kind.made.append(value)

    def keep(self, value: Expression) -> None:
        """The element itself is meant here, and not what it holds: it must be known by a loop's name."""
        if value.sense is not Sense.NAME or value.reference is None:
            raise _UnclearError
        self.kept.add(value)

    def read_walk(self, header: Expression, target: Expression) -> None:
        """The names that a loop gives to the elements, one after the other."""
        reference, statement = target.reference, header.statement
        if reference is None or statement is None:
            raise _UnclearError
        span = self.reach(header, statement)
        targets = {name.reference for _, name in self.walks}
        is_shared = any(bound not in targets for bound in reference.symbol.bindings)
        self.kind.shared += [reference] if is_shared else []
        for use in reference.symbol.references:
            if use is reference or use.form is Form.DECLARATION:
                continue
            if not span.start <= use.start < span.end:
                continue
            named = self.surroundings.of_reference(use)
            if use.mode is not Mode.READ or named is None or is_hard_to_echo(self.module, use):
                raise _UnclearError
            self.walked.add(named)
            self.kind.shared += [use] if is_shared else []
            if named not in self.kept:
                self.kind.used.append(use)
        self.check_end(statement, reference)

    def reach(self, header: Expression, statement: Statement) -> Span:
        """Where a loop's name stands for an element."""
        around = self.surroundings.around(header)
        return around.span if around is not None and around.sense is Sense.EACH else statement.span

    def check_end(self, statement: Statement, name: Reference) -> None:
        """The last element must not be looked at by the loop's name when the loop is over."""
        if statement.kind is not Kind.EACH or name.symbol.scope.kind is ScopeKind.COMPREHENSION:
            return
        routine = statement.block.routine_around
        if routine is not None and not isinstance(routine, Function):
            raise _UnclearError
        if name.symbol in Flow(self.module, routine).live_after(statement):
            raise _UnclearError
