"""Drafting a design: which variables belong together, and which routines go with them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Iterable, Sequence
from functools import cached_property
from typing import NamedTuple

from aedifex.design.dividing.names_from_calls import only_says
from aedifex.design.document.design import GRAINS, ClassPlan, Design, FieldPlan, MethodPlan, SourcePlan
from aedifex.design.drafting.beside import Beside
from aedifex.design.drafting.clusters import clusters
from aedifex.design.drafting.file_groups import file_groups
from aedifex.design.drafting.giving import Giving
from aedifex.design.drafting.group import Group
from aedifex.design.drafting.guests import Guests
from aedifex.design.drafting.kept_files import file_plan, kept_files
from aedifex.design.drafting.naming import (
    ACTION_WORDS,
    ATTRIBUTE_WORDS,
    RUNNING_WORDS,
    Names,
    is_resource,
    is_truth_at_first,
)
from aedifex.design.drafting.plans import Planner
from aedifex.design.drafting.reasons import UNSURE, Reasons
from aedifex.design.drafting.short_names import full_names
from aedifex.design.drafting.worth import Worth
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.holding import Holding
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.values import is_given_container, only_value, references_in, value_of
from aedifex.program.dialect.handling import CHANGING
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Scope, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Routine, Shape, Statement, final_name
from aedifex.program.structure.initial_values import InitialValues
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import variable_obstacles
from aedifex.program.structure.shared_modules import replaceable
from aedifex.program.structure.state import is_called_constant, is_own_object, is_state, is_used_in_routine
from aedifex.source.errors import Place, RefusedError
from aedifex.survey.evidence import Evidence, Node
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.words import nouns_of, words_of

_OWN_NOUN = 3
_FEWEST_HANDLERS = 2
_OF_TWO = 2
_MIXED = "state"


def draft(program: Program, grain: str = "usual", kept: Collection[str] = ()) -> Design:
    """Propose a design for a script; `grain` is one of `GRAINS`, from few classes to many.

    `kept` are variables that are the owner's whatever speaks for another class.

    Raises:
        RefusedError: there is no state at the top level that could be gathered.
    """
    module = program.main
    drafter = _Drafter(program, GRAINS[grain], kept)
    has_handlers = len(drafter.main.routes.handlers) >= _FEWEST_HANDLERS
    is_asked = any(not is_own_object(module, symbol) for symbol in drafter.main.fields)
    has_main = bool(drafter.main.run or (drafter.main.fronts.found and is_asked))
    is_wanted = GRAINS[grain] is None  # then one class was asked for, whatever it has
    beside = [path.name for path in module.dialect.files.neighbours(module)] if not module.block.statements else []
    if beside:
        advice = f"What it loads is {', '.join(beside)}: draft one of these."
        raise RefusedError("there is no code in this file itself", Place(module.path), advice)
    if not (drafter.variables or has_handlers or is_wanted or drafter.files) or not has_main:
        _refuse_what_stays(module)
        raise RefusedError(
            "no variable is shared or lives across the main loop here, so there is nothing to gather into classes",
            Place(module.path),
            "Each function has its state for itself; that is fine as it is. `--grain one` makes a class all the same.",
        )
    if module.is_left_to_others:
        drafter.doubts.append("what calls these functions is not here: what it uses of the variables, too, has to stay")
    return drafter.design()


def _refuse_what_stays(module: Module) -> None:
    """Say why a function that shares variables stays outside of classes, where one does.

    Raises:
        RefusedError: there is one.
    """
    effects = Effects.of(module)
    for function in module.functions:
        shared = sorted(s.name for s in effects.transitive[function].touches if is_state(s) and is_used_in_routine(s))
        span = function.statement.span
        place = next(((at, why) for at, why in module.only_outside if span.start <= at < span.end), None)
        if shared and place is not None:
            raise RefusedError(
                f"`{function.name}`, which uses `{shared[0]}`, cannot go into a class: {place[1]}",
                module.source.place(place[0]),
                "Write it in another way, and draft again.",
            )


def without_owner(program: Program) -> Design:
    """A design for a script whose functions have their state for themselves: its main code stays where it is."""
    module = program.main
    source = SourcePlan(module.path.name, program.origin.main.source.digest)
    reason = "no variable is shared or lives across the main loop"
    return Design([source], Names(module).owner(), [], reason, is_lifted=False)


class _Link(NamedTuple):
    """Variables and routines that belong together."""

    variables: frozenset[Symbol]
    routines: frozenset[Routine]

    @classmethod
    def of(cls, links: Iterable[_Link]) -> _Link:
        """Several as one."""
        found = list(links)
        return cls(
            frozenset().union(*(link.variables for link in found)),
            frozenset().union(*(link.routines for link in found)),
        )

    def touches(self, other: _Link) -> bool:
        """Whether two have something in common."""
        return bool(self.variables & other.variables or self.routines & other.routines)


class _Drafter:
    def __init__(self, program: Program, resolution: float | None, kept: Collection[str]) -> None:
        self.resolution = resolution
        self.kept = kept
        module = program.main
        self.program = program
        self.module = module
        self.origin = program.origin
        self.spellings = program.spellings
        self.effects = Effects.of(module)
        self.main = MainCode.of(module)
        self.names = Names(module, replaceable(program))
        self.doubts: list[str] = []
        self.full = full_names(module, [s for s in module.scope.symbols.values() if is_state(s)])
        self.variables = sorted({*self.main.fields, *self.kin}, key=lambda symbol: symbol.references[0].start)
        self.kinds = program.kinds

    def design(self) -> Design:
        groups = self.groups()
        classes = [*(self.class_plans(groups) if groups else []), *self.files]
        reason = "" if classes else self.why_only_owner
        source = SourcePlan(self.module.path.name, self.origin.main.source.digest)
        design = Design([source], self.names.owner(), classes, reason, [*self.unsure(classes), *self.doubts])
        given = {m.variable for c in classes for m in c.fields} | {m.routine for c in classes for m in c.methods}
        names = [*map(self.written, self.variables), *(function.name for function in self.module.functions)]
        design.keeps = [name for name in dict.fromkeys(names) if name not in given]
        return design

    @cached_property
    def files(self) -> list[ClassPlan]:
        """The classes of files that functions work with."""
        kept = kept_files(self.module) if self.resolution is not None else ()
        plans = (file_plan(one, self.module, self.names) for one in kept)
        return [plan for plan in plans if plan is not None]

    @property
    def kin(self) -> list[Symbol]:
        """The plain values that never change and are named after what other variables are about: `ferry_speed`."""
        about = Counter(nouns[0] for v in self.main.fields if len(nouns := self.nouns_of(v)) > 1)
        return [
            symbol
            for symbol in self.module.scope.symbols.values()
            if about[(self.nouns_of(symbol) or [""])[0]]
            and self.is_plain_value(symbol)
            and self.nouns_of(symbol)[0] not in ATTRIBUTE_WORDS
        ]

    def nouns_of(self, symbol: Symbol) -> list[str]:
        """The words of a variable's name, written out, in the singular."""
        return nouns_of(self.full.get(symbol.name, symbol.name))

    def is_plain_value(self, symbol: Symbol) -> bool:
        """Whether a variable is given a number or text once, is not spelled as a constant, and could be a field."""
        only = only_value(symbol) if is_state(symbol) and self.main.constants.settles(symbol) else None
        if only is None or only.value.shape is not Shape.LITERAL or len(self.nouns_of(symbol)) < 2:
            return False
        defining = (r.statement for r in symbol.references if r.statement is not None)
        is_own = not any(statement.kind in (Kind.ROUTINE, Kind.CLASS) for statement in defining)
        is_own = is_own and not self.module.is_known_outside(symbol.name)
        return is_own and not is_called_constant(self.module, symbol) and not variable_obstacles(self.module, symbol)

    def class_plans(self, groups: Sequence[Group]) -> list[ClassPlan]:
        rest = [node for node in self.nodes if not any(node in group.nodes for group in groups)]
        reasons = Reasons([*(group.nodes for group in groups), rest], self.evidence, self.effects, self.written)
        planner = Planner(self.module, self.names, reasons, self.full)
        plans = [plan for group in groups if (plan := planner.plan(group)) is not None]
        self.doubts += planner.doubts
        return plans

    def unsure(self, classes: Iterable[ClassPlan]) -> list[str]:
        """The members that another class could have as well, the least sure first."""
        low: list[tuple[float, str]] = []
        for home in classes:
            members: list[FieldPlan | MethodPlan] = [*home.fields, *home.methods]
            low += [(m.sure, f"{m.name} in {home.name}") for m in members if m.sure is not None and m.sure < UNSURE]
        return [f"{what}: only {sure:.0%} sure" for sure, what in sorted(low)]

    @property
    def why_only_owner(self) -> str:
        if self.resolution is None:
            return "one class was asked for"
        if self.main.routes.handlers:
            return "it tells the application of its own handlers"
        return "the variables are too few or too entangled for classes of their own"

    # -- which variables belong together

    @cached_property
    def hindered(self) -> dict[Symbol, str]:
        """The variables that cannot become fields of a class, each with the reason."""
        found = ((symbol, variable_obstacles(self.module, symbol)) for symbol in self.variables)
        return {symbol: obstacles[0].reason for symbol, obstacles in found if obstacles}

    @cached_property
    def movable(self) -> list[Symbol]:
        """The variables that may become fields of a class: nothing is in the way and their start is plain."""
        free = (symbol for symbol in self.variables if symbol not in self.hindered)
        return [symbol for symbol in free if InitialValues(self.module, [symbol]).settable]

    def groups(self) -> list[Group]:
        """The groups that are worth a class, with their routines and names, in the order of the script."""
        if self.resolution is None:
            return self.mixed([])
        for symbol, reason in self.hindered.items():
            self.doubts.append(f"{self.written(symbol)} is left where it is: {reason}")
        if own := file_groups(self.program, self.movable):
            return self.given(own)
        found = [self.group_of(nodes) for nodes in clusters(self.nodes, self.evidence.edges, self.resolution)]
        for group in found:
            self.keep_settable(group)
        found = [group for group in found if group.variables]
        self.name(found)
        doubts = list(self.doubts)
        self.giving.give(found)
        guests = Guests(self.evidence, self.effects, self.containers)
        if guests.send_home(found):
            self.give_anew(found)
        parts = [part for group in found for part in self.parts(group)]
        if guests.send_strangers_home(parts):
            parts = [part for part in parts if part.variables]
            self.give_anew(parts)
        groups = [part for part in parts if self.worth.of(part)]
        self.take_in(groups)
        order = {symbol: number for number, symbol in enumerate(self.variables)}
        for group in groups:
            group.variables.sort(key=order.__getitem__)
        groups.sort(key=lambda group: order[group.variables[0]])
        self.name(groups)
        self.doubts[:] = doubts  # what the first round doubted is asked again
        groups += self.mixed(groups)
        self.give_anew(groups)
        return groups

    def give_anew(self, groups: Sequence[Group]) -> None:
        """Give routines to groups that may have got some when they had other variables."""
        for group in groups:
            group.routines = []
        self.giving.give(groups)

    def given(self, groups: list[Group]) -> list[Group]:
        """Groups that the script's author made, with what their constructors can set and their routines."""
        for group in groups:
            self.keep_settable(group)
        groups = [group for group in groups if group.variables]
        self.giving.give(groups)
        return groups

    def mixed(self, groups: Sequence[Group]) -> list[Group]:
        """What the script's own classes use and no group took: an object of it can be given to them."""
        placed = {variable for group in groups for variable in group.variables}
        needed = self.main.needed_by_classes
        changing = [v for v in self.variables if v in needed and v not in placed]
        changing = [v for v in changing if not variable_obstacles(self.module, v)]
        variables = sorted([*changing, *self.data_held], key=lambda symbol: symbol.references[0].start)
        can_begin = bool(changing) and bool(InitialValues(self.module, variables).settable)
        own = nouns_of(variables[0].name)[:1] if len(variables) == 1 else []
        return [Group(noun=(own or [_MIXED])[0], variables=variables, is_mixed=True)] if can_begin else []

    @property
    def data_held(self) -> list[Symbol]:
        """Lists, sets and tables that would stay at the top level because classes of the script use them."""
        values = {symbol: only_value(symbol) for symbol in self.main.pinned.symbols}
        data = [s for s, only in values.items() if only is not None and only.value.shape is Shape.DISPLAY]
        return [symbol for symbol in data if not variable_obstacles(self.module, symbol)]

    def take_in(self, groups: Sequence[Group]) -> None:
        """Give a variable that was left over to the group by whose noun it is called, as most of the group's are.

        Or else to that with which alone it is used, in paragraphs with a heading of their own, where nothing else is
        called by its noun.
        """
        beside = Beside(self.module, [v for v in self.evidence.variables if isinstance(v, Symbol)])
        placed = {variable for group in groups for variable in group.variables}
        for variable in (v for v in self.evidence.variables if isinstance(v, Symbol)):
            for group in groups:
                named = [v for v in group.variables if self.evidence.nouns[v][:1] == [group.noun]]
                is_alike = self.evidence.nouns[variable][:1] == [group.noun] and 2 * len(named) > len(group.variables)
                is_its = is_alike or (self.has_own_noun(variable) and beside.is_only_with(variable, group.variables))
                if variable not in placed and is_its and self.is_settable(variable, group):
                    group.variables.append(variable)
                    placed.add(variable)

    def has_own_noun(self, variable: Symbol) -> bool:
        """Whether the noun in front of a variable's name is in no other name."""
        own = self.evidence.nouns[variable][:1]
        others = (nouns for node, nouns in self.evidence.nouns.items() if node is not variable)
        return bool(own) and not any(own[0] in nouns for nouns in others)

    def is_settable(self, variable: Symbol, group: Group) -> bool:
        """Whether the constructor of a group could set one more variable, and all that it set before."""
        variables = {*group.variables, variable}
        return InitialValues(self.module, variables).settable == variables

    def parts(self, group: Group) -> list[Group]:
        """A group in parts that nothing holds together: no routine given to it, and no word of its name.

        A class that falls apart so is more than one (M. Hitz, B. Montazeri, "Measuring coupling and cohesion in
        object-oriented systems", 1995). Where several nouns have variables enough for a class each, reading them
        together does not hold them.
        """
        links = self.links(group)
        parts: list[_Link] = []
        for link in links:
            touching = [part for part in parts if part.touches(link)]
            parts = [part for part in parts if part not in touching]
            parts.append(_Link.of([link, *touching]))
        return [
            Group(
                variables=[v for v in group.variables if v in part.variables],
                leaning=[r for r in group.leaning if r in part.routines or self.touches_any(r, part.variables)],
                routines=[r for r in group.routines if r in part.routines],
            )
            for part in parts
        ]

    def links(self, group: Group) -> list[_Link]:
        """What holds variables and routines of a group together: its name, and what each routine has to do with."""
        leading = Counter(self.evidence.nouns[v][0] for v in group.variables if self.evidence.nouns[v])
        is_of_many = sum(count >= _OWN_NOUN for count in leading.values()) > 1
        named = {v for v in group.variables if group.noun in self.evidence.nouns[v]}
        found = [_Link(frozenset(named), frozenset())] if named else []
        said = self.only_said(group)
        for routine in group.routines:
            effect = self.effects.direct[routine]
            own = effect.touches & set(group.variables)
            own = own - said[routine] or own
            if is_of_many:
                own = effect.writes & own or own
            callees = {r for r in self.effects.calls[routine] & set(group.routines) if self.is_inner(r, group)}
            found.append(_Link(frozenset(own), frozenset({routine, *callees})))
        return found

    def only_said(self, group: Group) -> dict[Routine, set[Symbol]]:
        """What each routine of a group has nothing to do with but to say what it is, while others work on it."""
        said: dict[Routine, set[Symbol]] = {}
        own = set(group.routines)
        outside = (function for function in self.module.functions if function not in own)
        worked_on = {symbol for function in outside for symbol in self.effects.direct[function].writes}
        used = {variable: _statements_by_scope(variable) for variable in group.variables}
        for routine in group.routines:
            touched = self.effects.direct[routine].touches & used.keys()
            scopes = list(routine.scope.walk())
            inside = {v: [s for scope in scopes for s in used[v].get(scope, ())] for v in touched}
            said[routine] = {v for v in touched if all(s and only_says(self.module, s) for s in inside[v])}
            worked_on |= touched - said[routine]
        return {routine: found & worked_on for routine, found in said.items()}

    def is_inner(self, routine: Routine, group: Group) -> bool:
        """Whether only routines of the group call a routine."""
        return all(caller in group.routines for caller, callees in self.effects.calls.items() if routine in callees)

    def touches_any(self, routine: Routine, variables: Collection[Symbol]) -> bool:
        return not self.effects.direct[routine].touches.isdisjoint(variables)

    @cached_property
    def evidence(self) -> Evidence:
        variables = [s for s in self.movable if not self.is_of_program(s) and s not in self.objects]
        later = set(filter(_is_made_later, variables))
        others = {noun for s in variables if s not in later for noun in self.nouns_of(s)[:1]}
        variables = [s for s in variables if s not in later or others & set(self.nouns_of(s)[:1])]
        return Evidence(self.module, variables, ATTRIBUTE_WORDS, ACTION_WORDS, full=self.full)

    @cached_property
    def objects(self) -> set[Symbol]:
        """The variables that hold objects of a class that there is, always the same: they are the owner's parts."""
        holdings = Holdings.of(self.module)
        single = {s for s in self.variables if self.is_kind(holdings.of_symbol(s))}
        single |= {s for s in self.variables if class_of_objects(holdings, holdings.of_symbol(s)) is not None}
        single |= {symbol for symbol in self.variables if symbol.name in self.kept}
        return single | {symbol for symbol in self.containers if not self.is_growing(symbol)}

    def is_growing(self, symbol: Symbol) -> bool:
        """Whether things come into a container and go."""
        methods = (r.path[-1].name for r in symbol.references if r.path and r.path_mode is Mode.CALL)
        handled = {self.module.dialect.library.handling_by_method(name) for name in methods if name}
        is_changed = not handled.isdisjoint(CHANGING) or any(r.path_mode is Mode.DELETE for r in symbol.references)
        return is_changed or len(symbol.bindings) > 1

    @cached_property
    def containers(self) -> set[Symbol]:
        """The variables that hold containers of such objects."""
        if not self.kinds:
            return set()
        held = {symbol: Holdings.of(self.module).of_symbol(symbol).element for symbol in self.variables}
        return {symbol for symbol, element in held.items() if element is not None and self.is_kind(element.now)}

    def is_kind(self, holding: Holding) -> bool:
        """Whether a holding stands for objects of a class with several."""
        return any(scope.name in self.kinds for scope in holding.classes)

    def is_of_program(self, symbol: Symbol) -> bool:
        """Whether a variable is a resource of the whole program, made once, or says whether it still runs."""
        words = words_of(symbol.name)
        return (words[-1:] != [] and words[-1] in RUNNING_WORDS) or is_resource(symbol) or self.is_found(symbol)

    def is_found(self, symbol: Symbol) -> bool:
        """Whether a variable holds a part of a page all the time, which the program only looked for."""
        only = only_value(symbol)
        call = only.call if only is not None else None
        return call is not None and self.module.dialect.library.finds_widget(final_name(call.callee))

    @cached_property
    def giving(self) -> Giving:
        """Which routines go with which group."""
        return Giving(self.module, self.doubts)

    @cached_property
    def worth(self) -> Worth:
        """Which groups deserve to be a class."""
        return Worth(self.module, self.evidence, self.variables, self.containers)

    @cached_property
    def nodes(self) -> list[Node]:
        return list(self.evidence.edges)

    def group_of(self, nodes: Sequence[Node]) -> Group:
        variables = [node for node in nodes if isinstance(node, Symbol)]
        return Group(variables=variables, leaning=[node for node in nodes if isinstance(node, Routine)])

    # -- what to call them

    def name(self, groups: Sequence[Group]) -> None:
        """Give each group the noun that is most its own."""
        everywhere: Counter[str] = Counter()
        inside: list[Counter[str]] = []
        for group in groups:
            words = self.words_for(group)
            inside.append(words)
            everywhere.update(words)
        taken: set[str] = set()
        for group, words in sorted(
            zip(groups, inside, strict=True), key=lambda pair: -max(pair[1].values(), default=0)
        ):
            holding = [v for v in group.variables if is_given_container(v) and len(group.variables) == _OF_TWO]
            held = {noun for variable in holding for noun in self.evidence.nouns[variable][:1]}
            ranks = {noun: (-(words[noun] ** 2) / everywhere[noun], noun not in held, noun) for noun in words}
            choices = sorted(words, key=ranks.__getitem__)
            choices = [noun for noun in choices if noun not in taken]
            saying = [v for v in group.variables if not (self.holds_widget(v) or self.only_says_whether(v, group))]
            said = {noun for v in saying for noun in self.evidence.nouns[v]}
            free = [noun for noun in choices if not self.is_widget(noun)]
            free = [*(noun for noun in free if noun in said), *free, *choices]
            group.noun = free[0] if free else "_".join(words_of(group.variables[0].name))
            group.second = [noun for noun in choices if noun != group.noun][:2]
            taken.add(group.noun)

    def is_widget(self, noun: str) -> bool:
        """Whether a library has parts of windows that are called so: a class of the script should not be."""
        return self.module.dialect.library.makes_widget(self.module.dialect.naming.class_name([noun]))

    def holds_widget(self, symbol: Symbol) -> bool:
        """Whether a variable is given a part of a window once."""
        only, library = only_value(symbol), self.module.dialect.library
        calls = only.statement.calls if only is not None else ()
        return any(library.makes_widget(final_name(call.callee)) for call in calls)

    def words_for(self, group: Group) -> Counter[str]:
        """How much speaks for each noun as the name of a group; what is true or not is no name of a thing.

        Nor is a word that only says something about one: `current`.
        """
        words: Counter[str] = Counter()
        for variable in group.variables:
            nouns = self.evidence.nouns[variable]
            is_truth = len(nouns) == 1 and is_truth_at_first(variable)
            for place, noun in enumerate(nouns):
                words[noun] += 1 if is_truth or noun in ATTRIBUTE_WORDS else 3 if place == 0 else 2
        for routine in group.leaning:
            for noun in self.evidence.nouns[routine]:
                words[noun] += 2
        return words

    def only_says_whether(self, variable: Symbol, group: Group) -> bool:
        """Whether a variable beside others is true or not, and has a word for that alone: `left`."""
        is_lone = all(v is variable or self.evidence.nouns[v] != self.evidence.nouns[variable] for v in group.variables)
        is_short = len(self.evidence.nouns[variable]) == 1 and len(group.variables) > 1
        return is_short and is_lone and is_truth_at_first(variable)

    def keep_settable(self, group: Group) -> None:
        """Leave to the owner what the group's constructor could not set."""
        settable = InitialValues(self.module, group.variables).settable
        late = [symbol for symbol in group.variables if symbol not in settable]
        if not late:
            return
        others = self.without_what_is_asked(group.variables, late)
        then = InitialValues(self.module, others).settable
        if then.issuperset(late) and len(then) >= len(settable):
            group.variables = others
            return
        for symbol in late:
            self.doubts.append(f"{self.written(symbol)} stays with the owner: its first value must be set where it is")
        group.variables = [symbol for symbol in group.variables if symbol in settable]

    def without_what_is_asked(self, variables: Sequence[Symbol], late: Collection[Symbol]) -> list[Symbol]:
        """Some variables without those that never change, are called otherwise than the late ones, and are asked for
        by the first values of these.
        """
        firsts = [(r.statement, value) for s in late if (value := value_of(r := s.references[0])) is not None]
        asked = {r.symbol for made, value in firsts if made is not None for r in references_in(made, value)}
        own = {noun for symbol in late for noun in self.evidence.nouns[symbol]}
        foreign = {s for s in asked - set(late) if own.isdisjoint(self.evidence.nouns.get(s, ()))}
        return [v for v in variables if v not in foreign or only_value(v) is None]

    def written(self, symbol: Symbol) -> str:
        """A variable as the script itself writes it."""
        return self.spellings.get(symbol.name, symbol.name)


def _statements_by_scope(variable: Symbol) -> dict[Scope, list[Statement | None]]:
    """The statements that name a variable, by where they name it."""
    found: dict[Scope, list[Statement | None]] = defaultdict(list)
    for reference in variable.references:
        found[reference.scope].append(reference.statement)
    return found


def _is_made_later(symbol: Symbol) -> bool:
    """Whether a variable is only declared, and functions put something into it: a picture, a list, a record."""
    if not symbol.bindings or any(binding.scope.frame is symbol.scope for binding in symbol.bindings):
        return False
    shapes = [value.shape if (value := value_of(binding)) is not None else None for binding in symbol.bindings]
    return shapes == [Shape.CALL] or set(shapes) == {Shape.DISPLAY}
