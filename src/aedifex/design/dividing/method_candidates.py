"""Which statements of the main code and of the owner's functions deserve to be a method of their own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property, partial
from itertools import groupby

from aedifex.design.dividing.candidate import Candidate
from aedifex.design.dividing.chain_branches import path_branches
from aedifex.design.dividing.drawings import Drawings
from aedifex.design.dividing.loop_body import DRAWING, Job, actions, job_of, only_draws
from aedifex.design.dividing.names_for_values import ValueNames
from aedifex.design.dividing.names_from_calls import draw_names, one_deed, one_thing, sets_plain_values, verb_at_end
from aedifex.design.dividing.names_from_changes import counts_up
from aedifex.design.dividing.names_from_comments import HINT, names_from
from aedifex.design.dividing.owner_candidates import JOB_NAMES, Place, Story
from aedifex.design.dividing.repeats import Occurrence, Repeat, repeats
from aedifex.design.dividing.request_branches import request_branches
from aedifex.design.dividing.restarts import begins_again, restarts
from aedifex.design.dividing.silent_blocks import SilentBlocks
from aedifex.design.document.design import ClassPlan, Design
from aedifex.design.drafting.naming import ATTRIBUTE_WORDS, POSITION_WORDS, strip_nouns
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow, leaves, writes
from aedifex.program.analysis.talk import Talk
from aedifex.program.analysis.values import given_values, may_change_object, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.names import MAIN, AccessKind, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Kind, Shape, Sort, Statement, final_name
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.plain_text import PlainText
from aedifex.program.structure.state import is_state
from aedifex.source.text import Span
from aedifex.survey.words import nouns_of, says_whose, words_of

_FEWEST_LINES = 3
_ADDING = "add"
_ADDS = frozenset({Handling.ADDS, Handling.INSERTS})
_ALL = "all"
_DRAW = "draw"
_OF_TIME = frozenset({"tick", "turn"})
"""What is done when some time has passed."""
_OF_ALL = DRAWING | _OF_TIME | frozenset({"loop", "frame", "animate", "cycle", "run"})
"""What the whole program does, or what changes nothing: no part that changes something is called so."""
_RESTART_WORDS = frozenset("again anew new reset restart".split())
_RESTART_NAMES = (["restart"], ["start", "again"])
_FEWEST_LETTERS = 2
_FEW_CALLS = 3
_ASKING_VERBS = frozenset({"get", "is", "has", "find"})
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE})


def candidates(program: Program, design: Design, silent: str = "") -> list[Candidate]:
    """The runs of statements worth a method, those of classes first, the longest of each first.

    What becomes a method of the class that is `silent` neither prints nor reads typed lines.
    """
    return _Finder(program, design, silent).find()


class _Finder:
    def __init__(self, program: Program, design: Design, silent: str) -> None:
        self.program = program
        self.design = design
        self.silent = silent
        self.module = program.main
        self.effects = Effects.of(self.module)
        self.main = MainCode.of(self.module)
        self.layout = Layout.of(self.module)
        self.naming = self.module.dialect.naming
        self.drawings = Drawings(self.module)
        names = {spelling: name for name, spelling in program.spellings.items()}
        scope = self.module.scope.symbols
        self.owned = {
            plan.name: {scope[name] for f in plan.fields if (name := names.get(f.variable, f.variable)) in scope}
            for plan in design.classes
        }

    def find(self) -> list[Candidate]:
        found = [c for plan in self.design.classes for c in self.of_class(plan)]
        found.sort(key=lambda c: (c.first - c.last, c.first))
        found += self.of_chains()
        found += self.of_paths()
        found += self.of_restarts()
        found += self.of_repeats()
        story = Story(self.module, self.lines, self.headings, {s for own in self.owned.values() for s in own})
        given = {method.routine for plan in self.design.classes for method in plan.methods}
        places = [Place(None, self.last_set_up), Place(None, self.main.run, has_turns=True)]
        places += [
            Place(function, function.body.statements, has_turns=True)
            for function in self.main.functions
            if function.name not in given
        ]
        for place in places:
            found += story.of(place)
        return [c for c in found if not self.only_tells(c, found) and not self.is_bit(c, found)]

    @staticmethod
    def is_bit(candidate: Candidate, found: Sequence[Candidate]) -> bool:
        """Whether a few lines lie in what becomes a method of the same class, or all of that but a line does."""
        if candidate.plan is None:
            return False
        around = [other for other in found if other.plan is candidate.plan and other.holds(candidate)]
        size = candidate.last - candidate.first + 1
        return any(size < _FEWEST_LINES or other.last - other.first <= size for other in around)

    def only_tells(self, candidate: Candidate, found: Sequence[Candidate]) -> bool:
        """Whether nothing but a few calls of methods of classes would be left of what becomes the owner's."""
        if candidate.plan is not None:
            return False
        told = [(c.first, c.last) for c in found if c.plan is not None and candidate.holds(c)]
        told += [
            lines
            for lines in self.lines_of_kinds(candidate.routine)
            if candidate.first <= lines[0] and lines[1] <= candidate.last
        ]
        left = set(range(candidate.first, candidate.last + 1)).difference(*(range(a, b + 1) for a, b in told))
        return 0 < len(told) <= _FEW_CALLS and self.lines_with_deeds.isdisjoint(left)

    def lines_of_kinds(self, routine: str) -> list[tuple[int, int]]:
        """The lines of a routine that are methods of things of several."""
        methods = (method for plan in self.design.kinds for method in plan.methods)
        return [method.lines for method in methods if method.lines is not None and method.routine == routine]

    @cached_property
    def lines_with_deeds(self) -> set[int]:
        """The lines of the script as it was read on which statements without blocks begin."""
        module = self.program.origin.main
        return {module.source.line_of(s.start) for s in module.walk() if not s.blocks}

    @property
    def last_set_up(self) -> Sequence[Statement]:
        """The set-up code below the last definition: one stretch of text."""
        definitions = [s.start for s in self.module.block.statements if s.kind in (Kind.ROUTINE, Kind.CLASS)]
        last = max(definitions, default=-1)
        return [statement for statement in self.main.set_up if statement.start > last]

    # -- what is done to one thing on one word

    def of_chains(self) -> Iterator[Candidate]:
        """What the main code does to one thing on one word or key: an action of that thing."""
        for outer in self.main.run:
            for statement in outer.walk():
                for name, block in actions(self.module, statement):
                    yield from self.as_action(name, block.statements)

    def as_action(self, name: str, run: Sequence[Statement]) -> Iterator[Candidate]:
        plan = next((p for p in self.design.classes if self.is_action(run, p)), None)
        lines = self.lines(run)
        if plan is not None and lines is not None:
            taken = {field.name for field in plan.fields} | {method.name for method in plan.methods}
            yield Candidate(plan, MAIN, *lines, (self.naming.joined("on", name) if name in taken else name,))

    def is_action(self, run: Sequence[Statement], plan: ClassPlan) -> bool:
        own = self.owned[plan.name]
        concerns = self.computes if plan.name == self.silent else self.concerns
        return not own.isdisjoint(writes(run)) and all(concerns(statement, own) for statement in run)

    def of_paths(self) -> Iterator[Candidate]:
        """What is done for one path of a request, where a long chain in one function asks for it."""
        functions = self.main.functions
        for block in [*request_branches(self.module, functions), *path_branches(self.module, functions)]:
            lines = self.program.original_lines(block.first, block.last)
            if lines is not None:
                yield Candidate(None, block.routine, *lines, block.names)

    # -- where the program begins again

    def of_restarts(self) -> Iterator[Candidate]:
        """What gives variables their first values once more, and is not all that its function does."""
        found = [(routine, run) for routine, block in self.blocks for run in restarts(self.module, block.statements)]
        texts = [self.texts(run) for _, run in found]
        for routine, run in found:
            function = self.module.function(routine) if routine != MAIN else None
            names = tuple(map(self.naming.member_name, _RESTART_NAMES))
            for plan, part in self.parts_of_classes(run):
                part_lines = self.lines(part)
                if part_lines is not None:
                    yield Candidate(plan, routine, *part_lines, names)
            is_only = function is not None and texts.count(self.texts(run)) == 1
            is_most = function is not None and 2 * len(run) > len(function.deeds)
            is_said = function is not None and not _RESTART_WORDS.isdisjoint(words_of(function.name))
            lines = self.lines(run)
            if lines is not None and not (is_only and (is_most or is_said)):
                free = tuple(name for name in names if name not in self.module.names_in_use)
                yield Candidate(None, routine, *lines, free)

    def texts(self, run: Sequence[Statement]) -> tuple[str, ...]:
        return tuple(self.module.source.slice(statement.span) for statement in run)

    def parts_of_classes(self, run: Sequence[Statement]) -> Iterator[tuple[ClassPlan, list[Statement]]]:
        """The parts of a run, of several statements each, that change only the state of one class."""
        for plan in self.design.classes:
            own = self.owned[plan.name]
            for is_own, part in groupby(run, key=lambda statement: self.changed(statement) <= own):
                statements = list(part)
                if is_own and len(statements) > 1:
                    yield plan, statements

    # -- what stands in several places

    def of_repeats(self) -> Iterator[Candidate]:
        """What stands in several places word for word: of the class whose state alone it changes, or the owner."""
        given = {method.routine: plan for plan in self.design.classes for method in plan.methods}
        for repeat in self.repeats:
            occurrences = repeat.occurrences
            homes = [given.get(one.routine.name) if one.routine is not None else None for one in occurrences]
            base = max(occurrences, key=self.told)
            plan = next((p for p in self.design.classes if self.is_action(base.run, p)), self.silent_home(base))
            if any(home is not plan for home in homes if home is not None) or any(map(self.begins_state, occurrences)):
                continue
            places = repeat.values[occurrences.index(base)] if repeat.holes else ()
            lines, values = self.lines(base.run), self.value_names.of(base.run, places, repeat.holes)
            if lines is None or len(values) != len(repeat.holes):
                continue
            names = tuple(self.names_of_repeat(base, values))
            if names:
                routine = base.routine.name if base.routine is not None else MAIN
                yield Candidate(plan, routine, *lines, names, values=values)

    @cached_property
    def repeats(self) -> list[Repeat]:
        """What stands in several places."""
        return repeats(self.module)

    def silent_home(self, one: Occurrence) -> ClassPlan | None:
        """The silent class, where a run computes with its state alone."""
        plan = next((plan for plan in self.design.classes if plan.name == self.silent), None)
        own = self.owned[plan.name] if plan is not None else set()
        is_about = any(not own.isdisjoint(self.read(s) | self.changed(s)) for s in one.run)
        return plan if is_about and all(self.computes(statement, own) for statement in one.run) else None

    def begins_state(self, one: Occurrence) -> bool:
        """Whether set-up code gives fields their values there, which a constructor should show."""
        is_set_up = one.routine is None and one.run[0].outermost in self.main.set_up
        return is_set_up and not set(self.main.fields).isdisjoint(writes(one.run))

    def told(self, one: Occurrence) -> int:
        """How many comments stand in a run."""
        return sum(len(PlainText.of(self.module).comments(statement)) for statement in one.run)

    @cached_property
    def value_names(self) -> ValueNames:
        """Names for the values in which what is written alike differs."""
        return ValueNames(self.module)

    def names_of_repeat(self, one: Occurrence, values: Sequence[str]) -> Iterator[str]:
        """From the comment above, from the one value that comes of it, or from what it does."""
        wishes = self.headings(one.run) if not values else []
        after = Flow(self.module, one.routine).live_after(one.run[-1])
        fields = set(self.main.fields) if one.routine is None else set()
        made = [symbol for symbol in writes(one.run) if symbol in after and symbol not in fields]
        if len(made) == 1 and len(made[0].name) > _FEWEST_LETTERS:
            is_worked_out = any(_works_out(inner, made[0]) for statement in one.run for inner in statement.walk())
            verb = "calculate" if is_worked_out else "make"
            wishes.append(self.naming.member_name([verb, *words_of(made[0].name)]))
        elif not made:
            deed, thing = one_deed(self.module, one.run), one_thing(self.module, one.run)
            wishes += self.value_names.deeds(one.run, values) if values else []
            wishes += [self.naming.member_name(deed)] if deed and deed[0] not in _ASKING_VERBS else []
            wishes += [self.naming.member_name(["set", "up", *words_of(thing)])] if thing else []
            if sets_plain_values(one.run):
                wishes.append("reset")
        for name in wishes:
            if name not in self.module.names_in_use and self.module.dialect.rules.is_name(name):
                yield name

    # -- what concerns one class only

    def of_class(self, plan: ClassPlan) -> Iterator[Candidate]:
        own = self.owned[plan.name]
        if plan.name == self.silent:
            yield from self.of_silent_class(plan)
            return
        for routine, block in self.blocks:
            run: list[Statement] = []
            for statement in [*block.statements, None]:
                if statement is not None and self.concerns(statement, own) and not self.is_about_others(statement, own):
                    run.append(statement)
                    continue
                yield from self.as_candidate(plan, routine, self.trimmed(run, own), own)
                run = []
            for drawing in self.drawings.of(block, own):
                lines = self.lines(drawing)
                is_apart = all(self.layout.stands_alone(statement) for statement in drawing)
                is_apart = is_apart and not self.is_all_of_drawing(drawing, own)
                if lines is not None and is_apart and not self.only_calls_method(drawing, plan):
                    names = tuple(self.naming.member_name([word]) for word in draw_names(drawing))
                    yield Candidate(plan, routine, *lines, names)

    def is_all_of_drawing(self, run: Sequence[Statement], own: set[Symbol]) -> bool:
        """Whether a run is all that a condition guards, which goes with it where the class is drawn."""
        block = run[0].block
        around = block.owner if len(run) == len(block.statements) else None
        is_guard = around is not None and around.kind is Kind.BRANCH and len(around.blocks) == 1
        return is_guard and around is not None and self.drawings.may_draw(around, own)

    def only_calls_method(self, run: Sequence[Statement], plan: ClassPlan) -> bool:
        """Whether a run is no more than a call of what is a method of the class already."""
        calls = run[0].calls if len(run) == 1 else []
        methods = {method.routine for method in plan.methods if method.lines is None}
        return len(calls) == 1 and calls[0].span == run[0].deed and final_name(calls[0].callee) in methods

    def of_silent_class(self, plan: ClassPlan) -> Iterator[Candidate]:
        """What only computes in code that talks."""
        own = self.owned[plan.name]
        computed = [r for r in self.repeats if self.silent_home(r.occurrences[0]) is plan]
        apart = {statement for repeat in computed for one in repeat.occurrences for statement in one.run}
        given = {method.routine for method in plan.methods}
        blocks = SilentBlocks(self.module, own, given, apart, partial(self.computes, own=own), self.headings)
        taken = {method.name for method in plan.methods} | {field.name for field in plan.fields}
        for block in blocks.find():
            lines = self.lines(block.run)
            names = tuple(name for name in block.names if name not in taken)
            if lines is not None and names:
                yield Candidate(plan, block.routine.name if block.routine is not None else MAIN, *lines, names)

    def computes(self, statement: Statement, own: set[Symbol]) -> bool:
        """Whether a statement changes no state but a class's own, and says nothing."""
        return self.concerns(statement, own) and not Talk.of(self.module).talks(statement)

    def concerns(self, statement: Statement, own: set[Symbol]) -> bool:
        """Whether all state that a statement changes is a class's own, and control leaves it at its end only."""
        if statement.kind in _DEFINING or leaves([statement]) or not self.layout.stands_alone(statement):
            return False
        if statement.kind is Kind.EXPRESSION and not self.changes_directly(statement, own):
            return False  # a call tells the story where it stands
        fields = {symbol for symbol in self.main.fields if symbol not in own}
        return self.changed(statement).isdisjoint(fields) and len(self.read(statement) & fields) < 3

    def is_about_others(self, statement: Statement, own: set[Symbol]) -> bool:
        """Whether a statement does something, and nothing with a class's state."""
        is_apart = own.isdisjoint(self.read(statement) | self.changed(statement))
        return is_apart and statement.kind not in (Kind.ASSIGN, Kind.UPDATE)

    def changes_directly(self, statement: Statement, own: set[Symbol]) -> bool:
        return any(r.symbol in own and may_change_object(r, self.module) for r in statement.references)

    def trimmed(self, run: list[Statement], own: set[Symbol]) -> list[Statement]:
        """A run without what does not touch the class at either end."""
        while run and own.isdisjoint(self.read(run[0]) | self.changed(run[0])):
            run = run[1:]
        while run and own.isdisjoint(self.read(run[-1]) | self.changed(run[-1])):
            run = run[:-1]
        return run

    def as_candidate(
        self, plan: ClassPlan, routine: str, run: Sequence[Statement], own: set[Symbol]
    ) -> Iterator[Candidate]:
        if not run:
            return
        lines = self.lines(run)
        is_addition = len(run) > 1 and self.has_others(routine, own) and self.adds(run, own)
        is_again = len(run) > 1 and all(begins_again(self.module, statement) for statement in run)
        is_long = lines is not None and lines[1] - lines[0] + 1 >= _FEWEST_LINES
        run = self.inside_guard(run, own)
        lines = self.lines(run)
        is_deed = bool(self.deed_of(routine, run, own)) or self.is_going(run, own)
        if lines is None or not (is_long or is_addition or is_again or is_deed):
            return
        if not any(own & self.changed(statement) for statement in run) or self.is_mostly_of_others(run, own):
            return
        names = [self.naming.member_name([_ADDING]), *self.names(run, own)] if is_addition else self.names(run, own)
        names = [*self.deed_of(routine, run, own), *names]
        if names:
            yield Candidate(plan, routine, *lines, tuple(names))

    def inside_guard(self, run: Sequence[Statement], own: set[Symbol]) -> Sequence[Statement]:
        """What a class does where one condition that is none of its business holds, if that is all; else the run."""
        guard = run[0]
        if len(run) > 1 or guard.kind is not Kind.BRANCH or len(guard.blocks) > 1:
            return run
        inside = guard.blocks[0].statements
        asked = self.module.references_within(Span(guard.start, inside[0].start))
        is_apart = own.isdisjoint(r.symbol for r in asked) and not any(r.mode is Mode.CALL for r in asked)
        is_whole = len(inside) > 1 and all(self.concerns(s, own) and not self.is_about_others(s, own) for s in inside)
        return inside if is_apart and is_whole else run

    def is_mostly_of_others(self, run: Sequence[Statement], own: set[Symbol]) -> bool:
        """Whether some statements mention the state of others more often than what a class has."""
        mentioned = [r.symbol for statement in run for r in self.module.references_within(statement.span)]
        others = set(self.main.fields) - own
        return sum(symbol in others for symbol in mentioned) > sum(symbol in own for symbol in mentioned)

    def deed_of(self, routine: str, run: Sequence[Statement], own: set[Symbol]) -> list[str]:
        """The one word for what a function does, where some statements are what it does to one class: `repair`.

        `tick` is one, too, where that class is all that the function changes.
        """
        words = [word for word in words_of(routine) if word != _ALL] if routine != MAIN else []
        if len(words) != 1 or not self.has_others(routine, own):
            return []
        changed = {symbol for statement in run for symbol in self.changed(statement) & own}
        is_deed = len(run) > 1 and len(changed) > 1 and all(not s.blocks for s in run)
        is_all = words[0] in _OF_TIME and self.changes_nothing_else(routine, run)
        named = (is_deed and _OF_ALL.isdisjoint(words)) or is_all
        return [self.naming.member_name(words)] if named else []

    def changes_nothing_else(self, routine: str, run: Sequence[Statement]) -> bool:
        """Whether some statements are all by which a function changes any state; what it shows it on is none."""
        function = self.module.function(routine)
        others = (s for s in function.body.statements if s not in run) if function is not None else ()
        only = [only_value(symbol) for statement in others for symbol in self.changed(statement)]
        return all(value is not None and value.value.shape is Shape.CALL for value in only)

    def is_going(self, run: Sequence[Statement], own: set[Symbol]) -> bool:
        """Whether statements do nothing but let a thing go on, and say what becomes of it where it comes to an edge."""
        first, *rest = run
        changed = self.changed(first) & own
        goes = {symbol for symbol in changed if self.member(symbol) in POSITION_WORDS}
        is_step = first.kind in (Kind.UPDATE, Kind.ASSIGN) and bool(goes) and goes == changed
        at_edge = [s.kind is Kind.BRANCH and self.changed(s) & own == goes for s in rest]
        return is_step and bool(rest) and all(at_edge)

    def has_others(self, routine: str, own: set[Symbol]) -> bool:
        """Whether a function works on more than the state of one class, of which it would be a method otherwise."""
        function = self.module.function(routine) if routine != MAIN else None
        fields = {symbol for symbol in self.main.fields if symbol not in own}
        return function is not None and not fields.isdisjoint(self.effects.transitive[function].touches)

    def adds(self, run: Sequence[Statement], own: set[Symbol]) -> bool:
        """Whether a run puts one thing that it is given or makes into what the class holds, and changes other state."""
        plain = [statement for statement in run if statement.kind in (Kind.EXPRESSION, Kind.ASSIGN)]
        adding = [s for s in plain if any(self.is_addition(r, own) for r in s.references)]
        others = {symbol for s in run if s not in adding for symbol in self.changed(s) & own}
        given = [r for s in adding for r in s.references if r.symbol.scope.frame.kind is ScopeKind.ROUTINE]
        return len(adding) == 1 and bool(others) and bool(given)

    def is_addition(self, reference: Reference, own: set[Symbol]) -> bool:
        """Whether something is put into a list or table of the class, by a method or under a key."""
        if reference.symbol not in own or len(reference.path) != 1:
            return False
        step, handling = reference.path[0], self.module.dialect.library.handling_by_method
        is_table = any(value.sort is Sort.TABLE for value in given_values(reference.symbol))
        is_put = reference.path_mode is Mode.WRITE and step.kind is AccessKind.INDEX and is_table
        is_called = reference.path_mode is Mode.CALL and handling(step.name or "") in _ADDS
        return is_put or is_called

    def changed(self, statement: Statement) -> set[Symbol]:
        return {symbol for symbol in self.effects.of_any(statement).writes if is_state(symbol)}

    def read(self, statement: Statement) -> set[Symbol]:
        return self.effects.of_any(statement).reads

    # -- lines and names

    @cached_property
    def blocks(self) -> list[tuple[str, Block]]:
        """The blocks of the main code and of the functions that stay with the owner."""
        given = {method.routine for plan in self.design.classes for method in plan.methods}
        found = [(MAIN, block) for statement in self.main.statements for block in _inner(statement)]
        for routine in self.main.functions:
            if routine.name not in given:
                found.append((routine.name, routine.body))
                found += [(routine.name, b) for s in routine.body.statements for b in _inner(s)]
        return found

    def lines(self, run: Sequence[Statement]) -> tuple[int, int] | None:
        """The lines of the script as it was read; None where they are not there in this form."""
        return self.program.original_lines_of(run)

    def names(self, run: Sequence[Statement], own: set[Symbol]) -> list[str]:
        """From the comment above, what the condition asks, or what is set; none where nothing tells."""
        headings = self.headings(run)
        if headings:
            of_class = {noun for symbol in own for noun in nouns_of(symbol.name)[:1]}
            return [strip_nouns(name, of_class, (), self.module) for name in headings]
        verb = "check" if run[0].kind is Kind.BRANCH else "update"
        if verb == "check" and (deed := self.asked_deed(run[0])):
            return [self.naming.member_name(["check", *deed])]
        asked = [r.symbol for r in run[0].references if r.symbol in own]
        inside = [r for s in run for i in s.walk() for r in i.references if r.symbol in own]
        set_here = [r.symbol for r in inside if r.mode.writes]
        set_in = [r.path[-1].name or "" for r in inside if r.path_mode is not None and r.path_mode.writes]
        nouns = (self.member(symbol) for symbol in [*asked, *set_here])
        found = next(([self.naming.member_name([verb, *words_of(noun)])] for noun in nouns if noun), [])
        if sets_plain_values(run) or self.begins_anew(run, own):
            return ["reset", *found]
        if set_here and all(counts_up(self.module, run, symbol) for symbol in set_here):
            return ["count", *found]
        if all(job_of(self.module, statement) is Job.DRAW for statement in run):
            return ["draw", "show", *found]
        updated = {r.symbol for s in run for i in s.walk() if i.kind is Kind.UPDATE for r in i.references if r.binds}
        may_move = run[0].kind is not Kind.BRANCH or updated.issuperset(set_here)
        places = [self.member(symbol) for symbol in set_here if not says_whose(symbol.name)]
        moves = may_move and any(name in POSITION_WORDS for name in (*places, *set_in))
        if verb == "update" and len(own) > 1 and own <= {*set_here}:
            found = [verb, *found]
        return ["move", *found] if moves else found

    def begins_anew(self, run: Sequence[Statement], own: set[Symbol]) -> bool:
        """Whether statements give several fields values that have nothing to do with what a class holds."""
        uses = [r for statement in run for r in self.module.references_within(statement.span) if r.symbol in own]
        is_set = all(statement.kind is Kind.ASSIGN for statement in run)
        return is_set and len({r.symbol for r in uses}) > 1 and all(r.mode is Mode.WRITE and not r.path for r in uses)

    def asked_deed(self, statement: Statement) -> list[str]:
        """The words of the script's own function that a condition asks, if it asks just one: `hit`, `has_won`."""
        functions = {function.name for function in self.module.functions}
        asked = {c.callee.name for c in statement.calls if c.callee is not None and not c.callee.path} & functions
        words = words_of(asked.pop()) if len(asked) == 1 else []
        return words[1:] if words[:1] and words[0] in _ASKING_VERBS | {"check"} else words

    def headings(self, run: Sequence[Statement]) -> list[str]:
        """The names that the comment above some statements gives, if it is a heading."""
        comment = self.layout.comment_above(run[0])
        if not comment:
            return []
        called, draws = verb_at_end(run), job_of(self.module, run[-1]) is Job.DRAW
        verb = _DRAW if self.only_shows(run) or (draws and not called) else called
        names = names_from(comment, verb, self.module.dialect)
        if names and not self.hands_out(run):
            names = [name for name in names if words_of(name)[0] not in _ASKING_VERBS]
            is_input = not names and job_of(self.module, run[0]) is Job.INPUT
            return [self.naming.member_name(words_of(name)) for name in JOB_NAMES[Job.INPUT]] if is_input else names
        return names or (self.names_by_question(run) if words_of(comment)[:1] == [HINT] else [])

    def only_shows(self, run: Sequence[Statement]) -> bool:
        """Whether some statements draw, and change nothing that the program knows."""
        inside = [r for s in run for r in self.module.references_within(s.span)]
        own = {r.symbol for r in inside if all(run[0].start <= use.start < run[-1].end for use in r.symbol.references)}
        rebinds = any(r.mode.writes and is_state(r.symbol) and r.symbol not in own for r in inside)
        changes = rebinds or any(r.path_mode and r.path_mode.writes for r in inside)
        return not changes and only_draws(self.module, run)

    def hands_out(self, run: Sequence[Statement]) -> bool:
        """Whether something that some statements set is looked at behind them."""
        end, set_here = run[-1].end, writes(run)
        return any(r.start >= end for symbol in set_here for r in symbol.references)

    def names_by_question(self, run: Sequence[Statement]) -> list[str]:
        """A name after the first variable that some statements ask about, where their comment only hints at it."""
        first = run[0].references[0].symbol if run[0].kind is Kind.BRANCH and run[0].references else None
        return [self.naming.joined("handle", first.name)] if first is not None and is_state(first) else []

    def member(self, symbol: Symbol) -> str:
        """The field's name in its class."""
        spelling = self.program.spellings.get(symbol.name, symbol.name)
        names = [f.name for plan in self.design.classes for f in plan.fields if f.variable == spelling]
        return names[0] if names and (names[0] in ATTRIBUTE_WORDS or len(names[0]) > 1) else symbol.name


def _works_out(statement: Statement, symbol: Symbol) -> bool:
    """Whether a statement gives a name a value that it computes."""
    if not any(r.symbol is symbol and r.mode.writes for r in statement.references):
        return False
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    return statement.kind is Kind.UPDATE or any(p.target.symbol is symbol and p.value.has_operations for p in pairs)


def _inner(statement: Statement) -> Iterator[Block]:
    for inner in statement.walk():
        for block in inner.blocks:
            if block.routine is None and block.statements:
                yield block
