"""Drafting a design: which variables belong together, and which routines go with them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property

from aedifex.design.model import ClassPlan, Design, FieldPlan, MethodPlan, SourcePlan, StartKind
from aedifex.design.naming import ACTION_WORDS, ATTRIBUTE_WORDS, Names, bare_name, strip_noun
from aedifex.program.effects import Actor, Effects, actor_of
from aedifex.program.layout import Layout
from aedifex.program.main_code import MainCode
from aedifex.program.names import Form, ScopeKind, Symbol
from aedifex.program.obstacles import routine_obstacles, variable_obstacles
from aedifex.program.passing import why_not_passed
from aedifex.program.program import Program
from aedifex.program.starts import Starts
from aedifex.program.state import is_state, may_change_object
from aedifex.program.statements import Routine
from aedifex.source.errors import Place, RefusedError
from aedifex.survey.words import nouns_of, words_of

_TELLING = frozenset("x y z pos position name color colour width height size label title text radius".split())
_JOIN_FROM = 1.0
_TOGETHER_FROM = 0.6
_MOST_PASSED = 4


@dataclass(eq=False)
class _Group:
    """Variables that describe one thing."""

    noun: str
    variables: list[Symbol] = field(default_factory=list)
    routines: list[Routine] = field(default_factory=list)
    by_use: list[Symbol] = field(default_factory=list)


def draft(program: Program) -> Design:
    """Propose a design for a script.

    Raises:
        RefusedError: there is no state at the top level that could be gathered.
    """
    module = program.main
    drafter = _Drafter(program)
    if not drafter.variables or not drafter.main.run:
        raise RefusedError(
            "no variable is shared or lives across the main loop here, so there is nothing to gather into classes",
            Place(module.path),
            "Each function has its state for itself; that is fine as it is.",
        )
    return drafter.design()


class _Drafter:
    def __init__(self, program: Program) -> None:
        module = program.main
        self.module = module
        self.origin = program.origin
        self.spellings = program.spellings
        self.effects = Effects.of(module)
        self.main = MainCode.of(module)
        self.layout = Layout.of(module)
        self.names = Names(module)
        self.doubts: list[str] = []
        self.variables = self.main.fields

    def design(self) -> Design:
        owner = self.names.owner()
        groups = self.groups()
        self.give_routines(groups)
        classes = [plan for group in groups if (plan := self.class_plan(group)) is not None]
        reason = "" if classes else "the variables are too few or too entangled for classes of their own"
        source = SourcePlan(self.module.path.name, self.origin.main.source.digest)
        return Design([source], owner, classes, reason, self.doubts)

    # -- which variables belong together

    @cached_property
    def movable(self) -> list[Symbol]:
        """The variables that may become fields of a class: nothing is in the way and their start is plain."""
        found = []
        for symbol in self.variables:
            obstacles = variable_obstacles(self.module, symbol)
            if obstacles:
                self.doubts.append(f"{self.written(symbol)} stays with the owner: {obstacles[0].reason}")
            elif Starts(self.module, [symbol]).movable:
                found.append(symbol)
        return found

    @cached_property
    def users(self) -> dict[Symbol, set[Actor]]:
        """The routines that have to do with each variable directly; the main code does not count."""
        users: dict[Symbol, set[Actor]] = defaultdict(set)
        for actor, effect in self.effects.direct.items():
            if actor is not None:
                for symbol in effect.touches:
                    users[symbol].add(actor)
        return users

    def groups(self) -> list[_Group]:
        groups = self.groups_by_name()
        self.join_by_use(groups)
        left = [s for s in self.movable if not any(s in group.variables for group in groups)]
        groups += self.groups_by_use(left, {group.noun for group in groups})
        for group in groups:
            self.keep_settable(group)
        groups = [group for group in groups if len(group.variables) > 1 or self.is_strong(group)]
        order = {symbol: number for number, symbol in enumerate(self.variables)}
        for group in groups:
            group.variables.sort(key=order.__getitem__)
        return sorted(groups, key=lambda group: order[group.variables[0]])

    def keep_settable(self, group: _Group) -> None:
        """Leave to the owner what the group's constructor could not set."""
        settable = {start.symbol for start in Starts(self.module, group.variables).movable}
        for symbol in group.variables:
            if symbol not in settable:
                self.doubts.append(
                    f"{self.written(symbol)} stays with the owner: its first value must be set where it is"
                )
        group.variables = [symbol for symbol in group.variables if symbol in settable]

    def groups_by_name(self) -> list[_Group]:
        """Variables whose names share a noun."""
        having: dict[str, list[Symbol]] = defaultdict(list)
        for symbol in self.movable:
            for noun in dict.fromkeys(nouns_of(symbol.name)):
                if noun not in ATTRIBUTE_WORDS and noun not in ACTION_WORDS and len(noun) > 1:
                    having[noun].append(symbol)
        weight = {noun: self.weight(noun, symbols) for noun, symbols in having.items()}
        groups: dict[str, _Group] = {}
        for symbol in self.movable:
            nouns = [noun for noun in having if symbol in having[noun]]
            nouns = [noun for noun in nouns if len(having[noun]) > 1 or self.is_noun_of_routines(noun)]
            if nouns:
                noun = max(nouns, key=lambda noun: (weight[noun], -nouns.index(noun)))
                groups.setdefault(noun, _Group(noun)).variables.append(symbol)
                if len(nouns) > 1:
                    others = ", ".join(other for other in nouns if other != noun)
                    self.doubts.append(f"{self.written(symbol)} went with {noun}; it could go with {others}")
        return list(groups.values())

    def weight(self, noun: str, symbols: list[Symbol]) -> float:
        """How well a noun names a thing: variables and routines that carry it, first words counting more."""
        leading = sum(1 for symbol in symbols if nouns_of(symbol.name)[:1] == [noun])
        return len(symbols) + 0.5 * leading + sum(1 for r in self.routines if noun in nouns_of(r.name))

    def is_noun_of_routines(self, noun: str) -> bool:
        return sum(1 for routine in self.routines if noun in nouns_of(routine.name)) > 1

    def is_strong(self, group: _Group) -> bool:
        """A class of one variable needs two routines that are about it and write nothing else."""
        if not group.variables:
            return False
        symbol = group.variables[0]
        about = [
            routine
            for routine in self.routines
            if group.noun in nouns_of(routine.name)
            and {s for s in self.effects.closed[routine].writes if is_state(s)} == {symbol}
        ]
        return len(about) > 1

    def join_by_use(self, groups: list[_Group]) -> None:
        """Variables without a noun in common join the group whose routines use them."""
        taken = {symbol for group in groups for symbol in group.variables}
        for symbol in self.movable:
            if symbol in taken or not groups:
                continue
            scores = {group.noun: self.affinity(symbol, group) for group in groups}
            best = max(groups, key=lambda group: scores[group.noun])
            if scores[best.noun] >= _JOIN_FROM:
                best.variables.append(symbol)
                best.by_use.append(symbol)
                self.doubts.append(f"{self.written(symbol)} went to {best.noun} because the same routines write it")

    def affinity(self, symbol: Symbol, group: _Group) -> float:
        """The share of a variable's writers that write the group too, and whether they stand in one section."""
        writers = self.writers(symbol)
        own = {symbol, *group.variables}
        shared = {w for w in writers if w is not None and self.is_about(w, own) and self.writes_any(w, group)}
        score = len(shared) / len(writers) if writers else 0.0
        section = self.section(symbol)
        sections = {self.section(other) for other in group.variables} - {""}
        if section and sections:
            score += 0.5 if section in sections else -0.5
        return score

    def is_about(self, routine: Routine, symbols: set[Symbol]) -> bool:
        """Whether a routine writes no other state than this, itself."""
        return {s for s in self.effects.direct[routine].writes if is_state(s)} <= symbols

    def writes_any(self, routine: Routine, group: _Group) -> bool:
        return not self.effects.direct[routine].writes.isdisjoint(group.variables)

    def writers(self, symbol: Symbol) -> set[Actor]:
        """Who gives a variable a new value or changes what it holds, after its first value."""
        found = {actor for actor, effect in self.effects.direct.items() if symbol in effect.writes}
        start = symbol.references[0].statement
        again = any(
            r.symbol is symbol and (r.mode.writes or may_change_object(r, self.module))
            for r in symbol.references
            if r.statement is not start and actor_of(r.scope) is None
        )
        return found if again else found - {None}

    def section(self, symbol: Symbol) -> str:
        statement = symbol.references[0].statement
        heading = self.layout.section_of(statement) if statement is not None else None
        return heading.text if heading is not None else ""

    def groups_by_use(self, symbols: list[Symbol], nouns: set[str]) -> list[_Group]:
        """Variables that nearly the same routines use, named after what those routines are called."""
        groups: list[_Group] = []
        left = [symbol for symbol in symbols if self.users[symbol]]
        while left:
            symbol, *left = left
            together = [other for other in left if self.likeness(symbol, other) >= _TOGETHER_FROM]
            noun = self.common_noun([symbol, *together])
            if together and noun and noun not in nouns:
                nouns.add(noun)
                groups.append(_Group(noun, [symbol, *together], by_use=[symbol, *together]))
                left = [other for other in left if other not in together]
        return groups

    def likeness(self, one: Symbol, other: Symbol) -> float:
        """Jaccard's coefficient of the routines that use each (P. Jaccard, New Phytologist 11, 1912)."""
        both = self.users[one] | self.users[other]
        return len(self.users[one] & self.users[other]) / len(both) if both else 0.0

    def common_noun(self, symbols: list[Symbol]) -> str | None:
        words: Counter[str] = Counter()
        for symbol in symbols:
            for actor in self.users[symbol]:
                if actor is not None and actor.symbol is not None:
                    # A routine's first word is what it does; a thing's name can only follow.
                    words.update(
                        noun
                        for noun in nouns_of(actor.name)[1:]
                        if noun not in ACTION_WORDS and noun not in ATTRIBUTE_WORDS and len(noun) > 2
                    )
        return words.most_common(1)[0][0] if words else None

    # -- which routines go with them

    @cached_property
    def routines(self) -> list[Routine]:
        return [
            routine
            for routine in self.module.routines
            if routine.symbol is not None and routine.symbol.scope.kind is ScopeKind.MODULE
        ]

    def give_routines(self, groups: list[_Group]) -> None:
        chosen: dict[Routine, _Group] = {}
        for routine in self.routines:
            group = self.group_for(routine, groups)
            if group is not None:
                chosen[routine] = group
        while True:
            unfit = [routine for routine, group in chosen.items() if self.leans_out(routine, group, chosen)]
            if not unfit:
                break
            for routine in unfit:
                del chosen[routine]
        for routine, group in chosen.items():
            group.routines.append(routine)

    def group_for(self, routine: Routine, groups: list[_Group]) -> _Group | None:
        effect = self.effects.closed[routine]
        writes = {s for s in effect.writes if is_state(s)}
        touched = [group for group in groups if not effect.touches.isdisjoint(group.variables)]
        if routine.name == "main" or routine_obstacles(self.module, routine, receiver=self.module.dialect.receiver):
            return None
        for group in touched:
            if writes:
                fits = writes <= set(group.variables)
            else:
                fits = group.noun in nouns_of(routine.name)
            if fits and self.can_be_given(routine, group):
                return group
        return None

    def can_be_given(self, routine: Routine, group: _Group) -> bool:
        """Whether all that a routine reads of others can be passed in, and its signature needs none of it."""
        foreign = self.foreign(routine, group)
        if len(foreign) > _MOST_PASSED:
            return False
        for symbol in foreign:
            reason = why_not_passed(self.effects, routine, symbol)
            if reason is not None:
                self.doubts.append(f"{routine.name} stays with the owner, not {group.noun}: {reason[1]}")
                return False
        assert routine.statement is not None
        return not any(
            reference.form is Form.PLAIN and reference.symbol.is_module_level and is_state(reference.symbol)
            for reference in routine.statement.references
        )

    def foreign(self, routine: Routine, group: _Group) -> list[Symbol]:
        """The changing state that a routine and what it calls read and the group does not own."""
        touches = self.effects.closed[routine].touches
        own = set(group.variables)
        return [s for s in self.main.variables if s in touches and s not in own]

    def leans_out(self, routine: Routine, group: _Group, chosen: dict[Routine, _Group]) -> bool:
        """Whether a routine calls one that works on state and goes elsewhere."""
        return any(
            callee is not routine
            and callee.symbol is not None
            and any(is_state(s) and not self.main.constants.settles(s) for s in self.effects.closed[callee].touches)
            and chosen.get(callee) is not group
            for callee in self.effects.calls[routine]
        )

    # -- the plan

    def class_plan(self, group: _Group) -> ClassPlan | None:
        instance = self.names.instance(group.noun, group.variables)
        if instance is None:
            self.doubts.append(f"no free name for an object `{group.noun}`, so its variables stay with the owner")
            return None
        plan = ClassPlan(self.names.class_name(group.noun), self.names.file(group.noun), instance, self.reason(group))
        taken = {routine.name for routine in group.routines if group.noun not in nouns_of(routine.name)}
        for symbol in group.variables:
            name = self.field_name(symbol, group, taken)
            taken.add(name)
            plan.fields.append(FieldPlan(self.written(symbol), name, self.start_kind(symbol, name)))
        for routine in group.routines:
            name = routine.name
            if group.noun in nouns_of(name):
                name = strip_noun(name, group.noun, taken, self.module)
            taken.add(name)
            plan.methods.append(MethodPlan(routine.name, name))
        return plan

    def field_name(self, symbol: Symbol, group: _Group, taken: Iterable[str]) -> str:
        if nouns_of(symbol.name) == [group.noun]:
            statement = symbol.references[0].statement
            pairs = statement.assignment.pairs if statement is not None and statement.assignment is not None else ()
            value = next((pair.value for pair in pairs if pair.target is symbol.references[0]), None)
            name = bare_name(self.module.source.slice(value.span)) if value is not None else symbol.name
            return name if name not in set(taken) else symbol.name
        name = strip_noun(symbol.name, group.noun, taken, self.module)
        small = name.lower()
        return small if name.isupper() and small not in set(taken) else name

    def written(self, symbol: Symbol) -> str:
        """A variable as the script itself writes it."""
        return self.spellings.get(symbol.name, symbol.name)

    def start_kind(self, symbol: Symbol, name: str) -> StartKind:
        """What tells one such thing from another is an argument; the rest is fixed."""
        return "argument" if set(words_of(name)) & _TELLING else "fixed"

    def reason(self, group: _Group) -> str:
        by_name = [self.written(s) for s in group.variables if s not in group.by_use]
        parts = []
        if len(by_name) > 1:
            parts.append(f"{_listed(by_name)} share the word {group.noun}")
        elif by_name:
            parts.append(f"{by_name[0]} has routines of its own")
        together = [
            routine.name
            for routine in self.routines
            if len([s for s in group.variables if s in self.effects.direct[routine].touches]) > 1
        ]
        if together:
            verb = "use" if len(together) > 1 else "uses"
            parts.append(f"{_listed(together)} {verb} several of them together")
        if group.by_use:
            verb = "is" if len(group.by_use) == 1 else "are"
            parts.append(f"{_listed([self.written(s) for s in group.by_use])} {verb} written by the same routines")
        return "; ".join(parts)


def _listed(names: list[str]) -> str:
    shown = names if len(names) <= 4 else [*names[:3], f"{len(names) - 3} more"]
    return shown[0] if len(shown) == 1 else f"{', '.join(shown[:-1])} and {shown[-1]}"
