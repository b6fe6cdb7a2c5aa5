"""Objects that are set up where they are made: of a class of the script without a constructor, or of a library's class.

`kite = Turtle()` and then `kite.penup()`, `kite.dx = 3`: what is said of a new object right behind its making is what a
constructor is for.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.definite_assignment import bound_before
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.reflection import reaches_members
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Leave, Shape, Statement, final_name
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.program.structure.state import Constants, is_state
from aedifex.source.text import Span
from aedifex.survey.kinds.carried import Carried
from aedifex.survey.kinds.likeness import Hole, alike

_MOST_GIVEN = 5
_STEPS = frozenset({Kind.ASSIGN, Kind.UPDATE, Kind.EXPRESSION})


@dataclass(frozen=True)
class SetUp:
    """One place where an object is made and set up: the call that makes it, its name, and the statements behind.

    `given` are the names from around that these statements need.
    """

    making: Statement
    call: Call
    maker: Reference
    symbol: Symbol
    run: tuple[Statement, ...]
    given: tuple[str, ...]

    @property
    def members(self) -> list[str]:
        """The members that it is given, in the order of the text."""
        own = (r for s in self.run for r in s.references if r.symbol is self.symbol and len(r.path) == 1)
        return list(dict.fromkeys(r.path[0].name or "" for r in own if r.path_mode is Mode.WRITE))

    @property
    def span(self) -> Span:
        """All of it."""
        return Span(self.making.start, self.run[-1].end)


@dataclass(frozen=True)
class SetUpKind:
    """Objects that are set up alike wherever they are made; `holes` are the constants that differ.

    `scope` is their class, where the script has it.
    """

    module: Module
    scope: Scope | None
    set_ups: tuple[SetUp, ...]
    holes: tuple[Hole, ...]

    @property
    def holder(self) -> str:
        """The name of the first of them."""
        return self.set_ups[0].symbol.name

    @cached_property
    def factory(self) -> Function | None:
        """The function that does nothing but to make such an object and give it back: it is the constructor."""
        made = self.set_ups[0]
        function = made.making.block.routine
        if not isinstance(function, Function) or len(self.set_ups) > 1 or function.is_method or function.is_postponed:
            return None
        *_, last = function.body.statements
        returns = [s for s in function.body.walk() if s.kind is Kind.LEAVE and Leave.RETURN in s.leaves]
        given_back = [r for r in last.references if r.symbol is made.symbol and not r.path]
        is_all_of_it = len(given_back) == 1 and len(last.references) == 1 and not last.calls
        if returns != [last] or not is_all_of_it or not self.module.source.slice(last.span).endswith(made.symbol.name):
            return None
        touched = Effects.of(self.module).transitive[function].touches
        is_bound_once = len(made.symbol.bindings) == 1 and made.making.block is function.body
        if function_obstacles(self.module, function) or Constants.of(self.module).changing(touched):
            return None
        asks_early = self.scope is not None and any(r.mode.reads for r in function.statement.references)
        return function if is_bound_once and not asks_early else None


class SetUps(Analysis):
    """The objects of one file that are set up where they are made."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self._effects = Effects.of(module)
        self._constants = Constants.of(module)
        self._layout = Layout.of(module)
        self._locals = set(MainCode.of(module).locals)
        self._surroundings = Surroundings.of(module)
        self._holdings = Holdings.of(module)

    @cached_property
    def kinds(self) -> list[SetUpKind]:
        """What is set up alike, in the order of the text."""
        if self.module.hindrances or any(self._is_prying(statement) for statement in self.module.walk()):
            return []
        found = [made for statement in self.module.walk() if (made := self._set_up(statement)) is not None]
        groups: dict[object, list[SetUp]] = {}
        for made in found:
            scope = self._class_of(made.maker)
            own = self.module.source.slice(made.maker.span), frozenset(made.members)
            groups.setdefault(scope or own, []).append(made)
        return [kind for key, group in groups.items() if (kind := self._kind(key, group)) is not None]

    def _is_prying(self, statement: Statement) -> bool:
        """Whether a statement may tell an object of one class from one of another that inherits from it."""
        tells = self.module.dialect.library.tells_class
        names = (*(r.name for r in statement.references), *statement.attributes)
        return reaches_members(self.module, statement) or any(map(tells, names))

    def _kind(self, key: object, group: Sequence[SetUp]) -> SetUpKind | None:
        scope = key if isinstance(key, Scope) else None
        first, *others = group
        likeness = alike(self.module, [s.span for s in group], [{first.symbol: other.symbol} for other in others])
        if likeness is None or likeness.renamed or any(s.given != first.given for s in others):
            return None
        if any(self._must_stay(hole, first) for hole in likeness.holes):
            return None
        if scope is not None and not self._is_all(scope, group):
            return None
        if scope is None and not (others or self._may_run_again(first) or self._is_heir(first)):
            return None
        if scope is None and (any(map(self._is_shown, group)) or self._is_stored):
            return None
        if len(first.given) + len(likeness.holes) > _MOST_GIVEN:
            return None
        return SetUpKind(self.module, scope, tuple(group), tuple(likeness.holes))

    def _must_stay(self, hole: Hole, made: SetUp) -> bool:
        """Whether a constant stands in the call that makes an object, or in a text that shows values."""
        around: Expression | None = hole.constants[0]
        while around is not None and around.sense is not Sense.TEXT:
            around = self._surroundings.around(around)
        return around is not None or made.call.span.holds(hole.constants[0].span)

    def _is_all(self, scope: Scope, group: Sequence[SetUp]) -> bool:
        """Whether a class is used for nothing but making these objects, here and anywhere."""
        makers = [made.maker for made in group]
        symbol = makers[0].symbol
        is_known = self.module.is_known_outside(symbol.name) or not symbol.is_module_level
        return not is_known and all(r in makers or r.form is Form.CLASS for r in symbol.references)

    def _may_run_again(self, made: SetUp) -> bool:
        """Whether it stands in a loop, or in a function."""
        return any(b.routine is not None or (b.owner and b.owner.is_loop) for b in made.making.block.outwards())

    def _is_heir(self, made: SetUp) -> bool:
        """Whether an object is also given what its library looks for in it."""
        library, folder = self.module.dialect.library, self.module.path.parent
        return any(library.may_have_member(made.maker, name, folder) for name in made.members)

    def _is_shown(self, made: SetUp) -> bool:
        """Whether a text may be made of such an object, or of what holds it, that tells its class."""
        held = self._holdings.of_symbol(made.symbol)
        for tree in self._surroundings.trees:
            for shown in (part for inner in tree.walk() if self._shows(inner) for part in inner.parts):
                found = self._holdings.of_expression(shown)
                if found is held or (found.element is not None and found.element.now is held):
                    return True
        return False

    def _shows(self, expression: Expression) -> bool:
        library = self.module.dialect.library
        callee = expression.parts[0].reference if expression.sense is Sense.CALL else None
        is_telling = callee is not None and (library.shows(callee.name) or callee.name == library.says)
        return is_telling or expression.sense is Sense.TEXT

    @property
    def _is_stored(self) -> bool:
        """Whether objects may be written down, or copied, with the name of their class."""
        library = self.module.dialect.library
        return any(library.stores_objects(name) or library.copies_objects(name) for name in self.module.imported)

    # -- one place

    def _set_up(self, statement: Statement) -> SetUp | None:
        assignment, module = statement.assignment, self.module
        if statement.kind is not Kind.ASSIGN or assignment is None or len(assignment.pairs) != 1:
            return None
        pair = assignment.pairs[0]
        call = next((c for c in statement.calls if (c.start, c.end) == (pair.value.start, pair.value.end)), None)
        target = pair.target
        if call is None or call.callee is None or pair.value.shape is not Shape.CALL or target.path:
            return None
        if len(assignment.targets) != 1 or not self._layout.stands_alone(statement):
            return None
        routine = target.scope.routine
        is_guarded = any(b.owner is not None and b.owner.kind is Kind.GUARDED for b in statement.block.outwards())
        if is_guarded or (routine is not None and routine.is_postponed) or module.is_known_outside(target.name):
            return None
        if not self._is_maker(call, target.symbol):
            return None
        names: list[str] = []
        run: list[Statement] = []
        for later in statement.block.statements[statement.index + 1 :]:
            more = self._given_behind(later, target)
            if more is None or len({*names, *more}) > _MOST_GIVEN:
                break
            names = list(dict.fromkeys([*names, *more]))
            run.append(later)
        made = SetUp(statement, call, call.callee, target.symbol, tuple(run), tuple(names))
        return made if run and self._is_unseen(made) and self._is_own(made) else None

    def _is_maker(self, call: Call, symbol: Symbol) -> bool:
        """Whether a call makes an object of a class to which a constructor can be given, or a class with one."""
        maker, library = call.callee, self.module.dialect.library
        assert maker is not None
        if any(reference is not maker for reference in self.module.references_within(call.span)):
            return False
        if self._class_of(maker) is not None:
            return not call.arguments
        if maker.symbol.imported is None or maker.symbol.target is not None or not maker.symbol.is_module_level:
            return False
        folder = self.module.path.parent
        is_class = final_name(maker)[:1].isupper() and not library.may_take_part_in_objects(maker, folder)
        return is_class and not library.may_ask_class(maker, folder) and symbol not in Carried.of(self.module).values

    def _class_of(self, maker: Reference) -> Scope | None:
        """The class of the script that a name stands for, if it has no constructor and inherits from nothing."""
        is_one = not maker.path and len(maker.symbol.bindings) == 1
        return self._bare_classes.get(maker.name) if is_one else None

    @cached_property
    def _bare_classes(self) -> dict[str, Scope]:
        """The classes at the top level that have no constructor and inherit from nothing, by their names."""
        is_constructor = self.module.dialect.rules.is_constructor
        defining = [s for s in self.module.block.statements if len(s.references) == 1 and not s.decorators]
        scopes = [s.defines for s in defining if s.defines is not None and s.defines.kind is ScopeKind.CLASS]
        return {scope.name: scope for scope in scopes if not any(map(is_constructor, scope.symbols))}

    def _given_behind(self, statement: Statement, target: Reference) -> list[str] | None:
        """The names that a statement needs from around, if all that it does is about the new object."""
        if statement.kind not in _STEPS or statement.blocks or statement.leaves:
            return None
        if not self._layout.stands_alone(statement) or not statement.references:
            return None
        first = statement.references[0]
        own = [r for r in statement.references if r.symbol is target.symbol]
        is_about = first.symbol is target.symbol and first.start == statement.start
        if not is_about or any(not r.path or r.path[0].kind is not AccessKind.ATTRIBUTE for r in own):
            return None
        assignment = statement.assignment
        if statement.kind is Kind.EXPRESSION and first.path_mode is not Mode.CALL:
            return None
        if assignment is not None and assignment.targets != ((first.start, first.path[-1].end),):
            return None
        inside = self.module.references_within(statement.span)
        if len(inside) != len(statement.references) or any(self.module.echo_at(r.start) for r in inside):
            return None
        keywords = [a.keyword for call in statement.calls for a in call.arguments if a.keyword]
        if any(
            map(self.module.dialect.rules.is_private, (*statement.attributes, *keywords, *(r.name for r in inside)))
        ):
            return None
        return self._given([r for r in inside if r.symbol is not target.symbol], target)

    def _given(self, references: Sequence[Reference], target: Reference) -> list[str] | None:
        """The names that must be handed over for some to mean the same in a constructor; None where that is not so."""
        found: list[str] = []
        for reference in references:
            symbol = reference.symbol
            if reference.binds or Form.ROUTINE in symbol.forms or reference.scope is not target.scope:
                return None
            if symbol.scope.kind is ScopeKind.OUTSIDE or symbol.imported is not None or Form.CLASS in symbol.forms:
                continue
            if symbol.is_module_level and is_state(symbol) and self._constants.settles(symbol):
                continue
            is_near = symbol in self._locals if symbol.is_module_level else symbol.scope is target.scope
            is_kept = symbol.is_module_level and is_settled(symbol) and target.scope is symbol.scope
            if is_kept and target.statement is not None and bound_before(target.statement, symbol):
                found.append(symbol.name)
                continue
            is_own = len({r.scope.holder for r in symbol.references}) == 1
            if not is_near or not is_own or symbol.name == self.module.dialect.writer.receiver:
                return None
            found.append(symbol.name)
        return found

    def _is_unseen(self, made: SetUp) -> bool:
        """Whether nobody can meet the name while it does not yet mean the new object."""
        is_own = len({r.scope.holder for r in made.symbol.references}) == 1
        if is_own and not (made.symbol.is_module_level and made.symbol not in self._locals):
            return True
        may_run = {routine for statement in made.run for routine in self._effects.may_run_in(statement)}
        return not any(made.symbol in self._effects.transitive[routine].touches for routine in may_run)

    def _is_own(self, made: SetUp) -> bool:
        """Whether an object is given anything that its class knows nothing of."""
        if not made.members:
            return False
        if self._class_of(made.maker) is not None:
            return True
        library, folder = self.module.dialect.library, self.module.path.parent
        return any(not library.may_have_member(made.maker, name, folder) for name in made.members)


def set_up_kind(module: Module, holder: str) -> SetUpKind | None:
    """The objects of which the first is made under a name."""
    return next((kind for kind in SetUps.of(module).kinds if kind.holder == holder), None)
