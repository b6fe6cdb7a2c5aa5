"""Which statements are about one object of a kind, and deserve to be a method of its class."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import groupby

from aedifex.design.dividing.drawings import sets_up_resource, with_pens_balanced
from aedifex.design.dividing.loop_body import Job, job_of
from aedifex.design.dividing.names_from_calls import MOVING, called_alone, called_by, only_says
from aedifex.design.dividing.object_names import ObjectNames, is_for_each, is_restart
from aedifex.design.dividing.state_needs import StateNeeds
from aedifex.design.drafting.handing import are_only_read
from aedifex.program.analysis.flow import leaves
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import CHANGING
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.routes import Routes
from aedifex.program.structure.state import Constants, is_state
from aedifex.source.text import Span
from aedifex.survey.kinds.objects import always_has_object, class_of_objects, is_object

_FEWEST_LINES = 2
_FEWEST_USES = 2
_FEWEST_IN_ONE = 3
_MOST_OTHERS_OF_TWO = 2
_MOST_OTHERS = 2
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.NOTHING})


@dataclass(frozen=True)
class ObjectBlock:
    """Statements about one object: where they stand, their first and last line, and names for a method of them.

    Where the same stands elsewhere about another object, `values` are the parameters for that, and for what differs.
    """

    routine: str
    first: int
    last: int
    names: tuple[str, ...]
    values: tuple[str, ...] = ()


def object_blocks(module: Module, scope: Scope) -> list[ObjectBlock]:
    """The runs of statements outside of a class that are about one object of it and need no state of the program."""
    return list(_Finder(module, scope).find())


class _Finder:
    def __init__(self, module: Module, scope: Scope) -> None:
        self.module = module
        self.scope = scope
        self.holdings = Holdings.of(module)
        self.needs = StateNeeds.of(module)
        self.constants = Constants.of(module)
        self.layout = Layout.of(module)
        self.names = ObjectNames(module, scope)

    def find(self) -> Iterator[ObjectBlock]:
        for routine, block in self.blocks():
            for symbol in self.objects_in(block):
                for run in self.runs(block, symbol):
                    found = list(self.as_block(routine, block, run, symbol))
                    if not found and symbol in self.needs.shared:
                        parts = self.parts_alone(run, symbol)
                        found = [each for part in parts for each in self.as_block(routine, block, part, symbol)]
                    yield from found

    def runs(self, block: Block, symbol: Symbol) -> Iterator[list[Statement]]:
        """The statements of a block that are about one object, as long as they go on."""
        run: list[Statement] = []
        for statement in block.statements:
            if run and not self.goes_on(run, statement, symbol):
                yield run
                run = []
            if run or self.goes_on([], statement, symbol):
                run.append(statement)
        if run:
            yield run

    def parts_alone(self, run: Sequence[Statement], symbol: Symbol) -> list[list[Statement]]:
        """The parts of a run that need nothing of the main code but one variable, and what can be handed over."""
        needy = groupby(run, key=lambda statement: bool(self.mentioned([statement], symbol)))
        return [list(part) for needs_more, part in needy if not needs_more]

    def blocks(self) -> Iterator[tuple[Function | None, Block]]:
        """All blocks of the main code and of functions outside of classes, outer ones first."""
        waiting: list[tuple[Function | None, Block]] = [(None, self.module.block)]
        waiting += [(function, function.body) for function in self.module.functions]
        while waiting:
            routine, block = waiting.pop(0)
            yield routine, block
            inner = [b for s in block.statements if s.kind not in _DEFINING for b in s.blocks]
            waiting += [(routine, b) for b in inner if b.routine is None]

    def objects_in(self, block: Block) -> list[Symbol]:
        """The names in a block that hold an object of the class."""
        found: dict[Symbol, None] = {}
        for statement in block.statements:
            for reference in self.module.references_within(statement.span):
                symbol = reference.symbol
                if reference.path and self.is_at_hand(symbol):
                    found[symbol] = None
        return list(found)

    def is_at_hand(self, symbol: Symbol) -> bool:
        """Whether a name holds an object of the class, and the same as long as it matters."""
        if symbol in self.needs.shared:
            return always_has_object(self.module, symbol, self.scope)
        is_near = symbol.scope.frame.kind in (ScopeKind.ROUTINE, ScopeKind.MODULE)
        return is_near and is_object(self.holdings, self.holdings.of_symbol(symbol), self.scope)

    def goes_on(self, run: Sequence[Statement], statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement is about an object, as those before it, and does not go on counting something else."""
        if not self.concerns(statement, symbol):
            return False
        if symbol in self.needs.shared and not self.is_enough(self.mentioned([*run, statement], symbol)):
            return False
        start = run[0].start if run else statement.start
        counted = self.others([*run, statement], symbol)
        return not any(start <= r.start < statement.end for other in counted for r in other.bindings)

    def concerns(self, statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement is about an object, does not give its name another one, and control stays in it."""
        if statement.kind in _DEFINING or leaves([statement]) or not self.layout.stands_alone(statement):
            return False
        references = self.module.references_within(statement.span)
        if any(r.symbol is symbol and (r.mode.writes or self.comes_or_goes(r)) for r in references):
            return False
        return not self.needs.exist(references, symbol) and not self.changes_others(references, symbol)

    def comes_or_goes(self, reference: Reference) -> bool:
        """Whether an object is put into a container, or taken out: that is the business of what has the container."""
        surroundings = Surroundings.of(self.module)
        name = surroundings.of_reference(reference) if not reference.path else None
        call = surroundings.around(name) if name is not None else None
        if call is None or call.sense is not Sense.CALL or call.parts[0].sense is not Sense.MEMBER:
            return False
        return self.module.dialect.library.handling_by_method(call.parts[0].name or "") in CHANGING

    def changes_others(self, references: Sequence[Reference], symbol: Symbol) -> bool:
        """Whether fields of another object of a class of the script, or of a record, are set."""
        set_in = {r.symbol for r in references if r.path_mode is not None and r.path_mode.writes} - {symbol}
        held = [self.holdings.of_symbol(other) for other in set_in]
        return any(holding.tables or class_of_objects(self.holdings, holding) is not None for holding in held)

    def mentioned(self, run: Sequence[Statement], symbol: Symbol) -> list[Reference]:
        """Where a run has to do with any variable of the main code but one, and what can be handed over."""
        found = [r for s in run for r in self.module.references_within(s.span)]
        beside = {r.symbol for r in found} - {symbol, *self.needs.handed}
        changing = {s for s in self.constants.changing(beside) if s.is_module_level}
        return [r for r in found if r.symbol in changing]

    @staticmethod
    def is_enough(mentioned: Sequence[Reference]) -> bool:
        """Whether what a run has to do with is one value at most, which is only read."""
        return len({r.symbol for r in mentioned}) <= 1 and are_only_read(mentioned)

    def as_block(
        self, routine: Function | None, block: Block, run: Sequence[Statement], symbol: Symbol
    ) -> Iterator[ObjectBlock]:
        """What is about an object as one block, or as two where it is drawn, and then, or before, changed."""
        run = self.trimmed(run, symbol)
        deeds = [list(part) for _, part in groupby(run, key=self.is_drawn)]
        parts = [self.inside_guard(self.trimmed(part, symbol), symbol) for part in deeds]
        found = [list(self.as_one_block(routine, block, part, symbol, is_part=True)) for part in parts]
        is_apart = len(deeds) == 2 and all(len(self.others(part, symbol)) <= _MOST_OTHERS_OF_TWO for part in deeds)
        if is_apart and all(found):
            yield from (each for part in found for each in part)
        else:
            is_rest = bool(run) and self.is_rest(block, run, symbol)
            yield from self.as_one_block(routine, block, run, symbol, is_part=is_rest)

    def inside_guard(self, run: Sequence[Statement], symbol: Symbol) -> Sequence[Statement]:
        """What is done where one condition holds that says nothing of the object, if that is all; else the run."""
        guard = run[0] if len(run) == 1 else None
        if guard is None or guard.kind is not Kind.BRANCH or len(guard.blocks) != 1:
            return run
        inside = guard.blocks[0].statements
        asked = self.module.references_within(Span(guard.start, inside[0].start))
        return run if any(r.symbol is symbol for r in asked) or len(inside) < _FEWEST_LINES else inside

    def is_rest(self, block: Block, run: Sequence[Statement], symbol: Symbol) -> bool:
        """Whether a run is what a loop does with each object beside telling it what its methods are called."""
        others = [statement for statement in block.statements if statement not in run]
        return is_for_each(block) and bool(others) and all(self.is_told(statement, symbol) for statement in others)

    def is_drawn(self, statement: Statement) -> bool:
        """Whether a statement draws, or says how, and changes no field of what is drawn."""
        changes = any(r.path_mode is not None and r.path_mode.writes for r in statement.references)
        if statement.blocks:
            return self.says_how(statement) and not changes and all(map(self.is_drawn, statement.inner))
        return self.says_how(statement) and (not changes or statement.kind is Kind.ASSIGN)

    def as_one_block(
        self,
        routine: Function | None,
        block: Block,
        run: Sequence[Statement],
        symbol: Symbol,
        *,
        is_part: bool = False,
    ) -> Iterator[ObjectBlock]:
        if not run:
            return
        span_uses = [r for s in run for r in self.module.references_within(s.span) if r.symbol is symbol]
        fields = [r for r in span_uses if r.path and r.path[0].name not in self.scope.symbols]
        first = self.module.source.line_of(run[0].start)
        last = self.module.source.lines_of(run[-1].span)[1]
        is_long = len(run) >= _FEWEST_LINES or last - first + 1 > _FEWEST_LINES or self.is_choice_for_each(run[0])
        is_step = not is_long and (
            self.is_step(routine, run[0], symbol, fields) or self.goes_on_by_itself(block, run[0], symbol)
        )
        fewest = _FEWEST_USES if is_long else _FEWEST_IN_ONE
        is_step |= is_part and any(r.path_mode is not None and r.path_mode.writes for r in fields)
        is_drawn_apart = is_part and self.is_drawn(run[0]) and len(fields) >= _FEWEST_USES
        is_step |= is_drawn_apart
        is_all = is_step and is_for_each(block) and len(block.statements) == 1
        is_all |= self.goes_on_with(block, run[0], symbol) and len(run) == 1
        is_step |= is_all
        is_handy = is_long or is_all or is_part or self.others(run, symbol) & self.needs.shared <= self.needs.handed
        if not is_handy:
            return
        draws = self.draws(block, run[0])
        is_worth = is_long or draws or only_says(self.module, run[0])
        is_drawn_whole = draws and (called_alone(run[0]) in MOVING or self.has_one_field)
        fewest = 1 if is_drawn_whole else _FEWEST_USES if draws else fewest
        if not is_step and (len(fields) < fewest or not is_worth):
            return
        if len(self.others(run, symbol)) > _MOST_OTHERS or self.is_setting_up(run[0], symbol):
            return
        if routine is not None and self.answers(routine, run, symbol):
            return
        if len(fields) <= 2 * len(self.uses_of_others(run, symbol)):
            return
        is_kept = symbol in self.needs.shared
        is_short = len(run) <= _FEWEST_LINES and not any(statement.blocks for statement in run)
        is_reset = routine is not None and is_restart(routine) and self.names.begins_anew(run, symbol)
        drawing = [statement for statement in run if not self.only_says_how(statement)]
        is_drawing = 0 < len(drawing) < len(run) and all(map(self.is_drawn, run))
        is_drawing = is_drawing and all(any(r.symbol is symbol for r in s.references) for s in drawing)
        if is_kept and is_short and not (is_drawn_apart or is_reset or is_drawing):
            return
        names = tuple(self.names.of(routine, block, run, symbol, has_reason=not is_kept))
        yield ObjectBlock(routine.qualified_name if routine is not None else MAIN, first, last, names)

    def answers(self, routine: Function, run: Sequence[Statement], symbol: Symbol) -> bool:
        """Whether a run asks a request for something, or answers it: that is the business of its handler."""
        is_handler = routine in Routes.of(self.module).handlers
        given = {p.reference.symbol for p in routine.parameters} if is_handler else set()
        asked = {r.symbol for s in run for r in self.module.references_within(s.span) if r.path}
        return not given.isdisjoint(asked & self.others(run, symbol))

    def is_choice_for_each(self, statement: Statement) -> bool:
        """Whether a statement is all that a loop does with each object, and asks it several things before."""
        asked = [r for r in statement.references if r.path]
        is_all = is_for_each(statement.block) and len(statement.block.statements) == 1
        return is_all and statement.kind is Kind.BRANCH and len(asked) >= _FEWEST_USES

    def uses_of_others(self, run: Sequence[Statement], symbol: Symbol) -> list[Reference]:
        """Where a run mentions other objects of classes of the script."""
        found = [r for s in run for r in self.module.references_within(s.span) if r.symbol is not symbol]
        return [r for r in found if class_of_objects(self.holdings, self.holdings.of_symbol(r.symbol)) is not None]

    def is_setting_up(self, first: Statement, symbol: Symbol) -> bool:
        """Whether statements stand right behind the one that makes the object: they say what it begins with."""
        above = first.block.statements[first.index - 1] if first.index else None
        if above is None or not any(r.symbol is symbol and r.binds for r in above.references):
            return False
        makers = (call.callee for call in above.calls if call.callee is not None)
        return any(self.holdings.of_symbol(maker.symbol).makers or maker.symbol.imported for maker in makers)

    def trimmed(self, run: Sequence[Statement], symbol: Symbol) -> list[Statement]:
        """A run without what does not mention the object at either end."""
        uses = [any(r.symbol is symbol for r in self.module.references_within(s.span)) for s in run]
        if not any(uses):
            return []
        first, last = uses.index(True), len(uses) - uses[::-1].index(True)
        while first < last and self.is_told(run[first], symbol):
            first += 1
        while first < last and self.is_told(run[last - 1], symbol):
            last -= 1
        while first < last - 1 and self.only_fetches(run[last - 1], symbol):
            last -= 1
        while first > 0 and self.is_preparing(run[first - 1], run[first:last]):
            first -= 1
        if first == last:
            return []
        while first > 0 and self.leads_to(run[first - 1], run[first:last], symbol):
            first -= 1
        while last < len(run) and self.draws_on(run[last], run[first:last], symbol) and not self.is_for_next(run[last]):
            last += 1
        return with_pens_balanced(self.module, run[first:last])

    def leads_to(self, statement: Statement, run: Sequence[Statement], symbol: Symbol) -> bool:
        """Whether a statement right before those that draw an object belongs to them.

        What draws before a thing of which there is one, and does not only say how, has drawn something else.
        """
        is_of_one = symbol in self.needs.shared
        return self.draws_on(statement, run, symbol) and (not is_of_one or self.only_says_how(statement))

    def only_says_how(self, statement: Statement) -> bool:
        """Whether a statement draws nothing, and only says how what comes behind it is drawn."""
        library, called = self.module.dialect.library, called_by(statement.calls)
        begins = any(library.begins_path(name) or library.kept_pens(name) > 0 for name in called)
        return begins or sets_up_resource(statement) or library.sets_pen(called_alone(statement))

    def draws_on(self, statement: Statement, run: Sequence[Statement], symbol: Symbol) -> bool:
        """Whether a statement beside those that draw an object draws as well, or says how, with nothing but these."""
        beside = run[0] if statement.start < run[0].start else run[-1]
        if not self.says_how(beside) or not self.says_how(statement):
            return False
        return self.others([statement], symbol) <= self.others(run, symbol)

    def says_how(self, statement: Statement) -> bool:
        """Whether a statement draws, or sets with what that is done, or all that it leads to does."""
        if statement.blocks:
            return statement.kind not in _DEFINING and all(map(self.says_how, statement.inner))
        is_drawn = statement.kind is Kind.EXPRESSION and job_of(self.module, statement) is Job.DRAW
        return is_drawn or sets_up_resource(statement)

    def is_told_how(self, statement: Statement) -> bool:
        """Whether a statement only says how what comes behind it is drawn."""
        called = statement.calls[0].callee if len(statement.calls) == 1 else None
        is_own = called is not None and not called.path
        return sets_up_resource(statement) or (is_own and self.module.dialect.library.sets_pen(called_alone(statement)))

    def is_for_next(self, statement: Statement) -> bool:
        """Whether a statement only says how what comes behind it is drawn; at the end of a loop nothing does."""
        is_last = statement.block.owner is not None and statement.block.owner.is_loop
        is_last = is_last and statement is statement.block.statements[-1]
        return self.is_told_how(statement) and not is_last

    def only_fetches(self, statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement gives names what it asks for, for what comes behind it, and changes nothing."""
        targets = [r for r in statement.references if r.binds]
        is_asking = statement.kind is Kind.ASSIGN and bool(targets) and all(r.symbol is not symbol for r in targets)
        changes = any(r.path_mode is not None and r.path_mode.writes for r in statement.references)
        after = any(r.start >= statement.end for target in targets for r in target.symbol.references)
        return is_asking and after and not changes

    def is_step(
        self, routine: Function | None, statement: Statement, symbol: Symbol, fields: Sequence[Reference]
    ) -> bool:
        """Whether a statement is all that a routine, or its loop, does with an object, and changes it."""
        is_choice = statement.kind is Kind.BRANCH and len(fields) > 1
        is_change = is_choice or (routine is not None and statement.kind in (Kind.ASSIGN, Kind.UPDATE))
        is_all = is_for_each(statement.block) and len(statement.block.statements) == 1
        is_all = is_all or (routine is not None and self.is_all_of(routine, statement, symbol))
        return (is_change and is_all) and any(r.path_mode is not None and r.path_mode.writes for r in fields)

    @staticmethod
    def is_all_of(routine: Function, statement: Statement, symbol: Symbol) -> bool:
        """Whether a routine does one thing to an object that it fetches for that, at most where there is such one."""
        block = statement.block
        deeds = routine.deeds if block is routine.body else block.statements
        others = [s for s in deeds if s is not statement]
        is_fetched = bool(others) and all(any(r.symbol is symbol and r.binds for r in s.references) for s in others)
        return is_fetched and (block is routine.body or routine.deeds == [block.owner])

    def goes_on_by_itself(self, block: Block, statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement changes one field of an object in a loop over many by its other fields, and no more.

        Where it is may change by the same number each time. What an object has of a library, and nothing else, goes on
        where one of its members does.
        """
        is_each = is_for_each(block) or self.is_fetched(block, symbol)
        if not is_each or statement.kind is not Kind.UPDATE or statement.calls:
            return False
        if self.has_one_field:
            own = [r for r in statement.references if r.symbol is symbol]
            return len(own) == 1 and all(len(r.path) > 1 if r in own else not r.path for r in statement.references)
        if self.names.only_shifts([statement], symbol):
            beside = (r.symbol for r in statement.references if r.symbol is not symbol)
            return all(self.constants.settles(other) for other in beside)
        return self.others_in_step(statement, symbol) == []

    def goes_on_with(self, block: Block, statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement changes a field of each object by another of its fields and one number.

        That is of the script, or what the routine is given: how long a turn takes.
        """
        is_each = is_for_each(block) or self.is_fetched(block, symbol)
        if not is_each or statement.kind is not Kind.UPDATE or statement.calls:
            return False
        others = self.others_in_step(statement, symbol) or []
        return len(others) == 1 and not others[0].path and self.is_of_script(others[0].symbol)

    def is_of_script(self, symbol: Symbol) -> bool:
        """Whether something is a variable that routines share, or a parameter of one."""
        return symbol in self.needs.shared or any(r.form is Form.PARAMETER for r in symbol.references)

    def others_in_step(self, statement: Statement, symbol: Symbol) -> list[Reference] | None:
        """What a statement has to do with beside several fields of an object; None where there are not several."""
        own = [r for r in statement.references if r.symbol is symbol and len(r.path) == 1]
        return [r for r in statement.references if r not in own] if len({r.path[0].name for r in own}) > 1 else None

    def is_fetched(self, block: Block, symbol: Symbol) -> bool:
        """Whether a loop fetches an object by its number before all else."""
        first = block.statements[0].assignment
        pairs = first.pairs if first is not None else ()
        if block.owner is None or not block.owner.is_loop or len(pairs) != 1 or pairs[0].target.symbol is not symbol:
            return False
        value = Surroundings.of(self.module).by_span.get(pairs[0].value.span)
        return value is not None and value.sense is Sense.PART

    def draws(self, block: Block, statement: Statement) -> bool:
        """Whether a statement draws each object of a loop, or puts what is drawn of it somewhere else."""
        is_drawn = job_of(self.module, statement) is Job.DRAW or called_alone(statement) in MOVING
        return is_for_each(block) and statement.kind is Kind.EXPRESSION and is_drawn

    @cached_property
    def has_one_field(self) -> bool:
        """Whether the objects have nothing but one thing."""
        rules = self.module.dialect.rules
        own = (f for f in self.module.all_functions if f.is_method and f.scope.parent is self.scope)
        makers = [f.receiver for f in own if rules.is_constructor(f.name) and f.receiver is not None]
        set_here = (r for made in makers for r in made.references if r.path_mode is not None and r.path_mode.writes)
        return len({r.path[0].name for r in set_here}) == 1

    def is_told(self, statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement only tells the object to do what one of its methods is called, or does so at times."""
        if statement.kind is Kind.BRANCH:
            return all(self.is_told(inner, symbol) for inner in statement.inner)
        first = statement.references[0] if statement.references else None
        is_about = first is not None and first.symbol is symbol and first.start == statement.start
        return is_about and called_alone(statement) in self.scope.symbols

    def is_preparing(self, statement: Statement, run: Sequence[Statement]) -> bool:
        """Whether a statement only gives a first value to what the statements behind it use."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        if statement.kind is not Kind.ASSIGN or not pairs or statement.calls:
            return False
        end = run[-1].end
        given = [pair.target.symbol for pair in pairs]
        return all(statement.start <= r.start < end for symbol in given for r in symbol.references)

    def others(self, run: Sequence[Statement], symbol: Symbol) -> set[Symbol]:
        """The variables from around a run that it would have to be given."""
        start, end = run[0].start, run[-1].end
        found: set[Symbol] = set()
        for reference in (r for s in run for r in self.module.references_within(s.span)):
            other = reference.symbol
            is_local = (
                other.scope.frame.kind is ScopeKind.ROUTINE
                or other.scope.kind is ScopeKind.BLOCK
                or (other.is_module_level and is_state(other))
            )
            if other is symbol or not is_local or self.constants.settles(other):
                continue
            bound = [r for r in other.bindings if start <= r.start < end]
            if not bound or bound[0].start > reference.start or bound[0].mode is Mode.READ_WRITE:
                found.add(other)
        return found
