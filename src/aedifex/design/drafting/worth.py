"""Which variables and routines that lean to one another deserve to be a class."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Sequence
from functools import cached_property

from aedifex.design.dividing.loop_body import Job, job_of
from aedifex.design.drafting.group import Group
from aedifex.design.drafting.naming import ATTRIBUTE_WORDS
from aedifex.design.drafting.thing_words import HAPPENING
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.values import given_values, is_given_container, only_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Symbol
from aedifex.program.model.statements import Function, Kind, Routine, Shape, Sort, final_name
from aedifex.program.structure.fronts import Fronts
from aedifex.program.structure.state import is_state
from aedifex.survey.evidence import Evidence
from aedifex.survey.kinds.carried import library_maker
from aedifex.survey.words import is_participle, nouns_of, words_of

_FEWEST_DEEDS = 3
_FEWEST_CHANGES = 2
_NEARLY = 0.75
_NEARLY_ALL = 0.85
_HALF = 0.5
_MANY = 5
_SHORT_WORD = 2
_ON_EVENT = "on"
_CONTAINERS = frozenset({Sort.LIST, Sort.TABLE})
_PART_OF_COPY = re.compile(r"[A-Za-z_]+?_?(?P<number>\d+)_?[A-Za-z]\w*")


class Worth:
    """Judges groups, each with the routines that could be given to it.

    `variables` are all the state there is; `containers` hold objects of classes that are there already.
    """

    def __init__(
        self, module: Module, evidence: Evidence, variables: Sequence[Symbol], containers: set[Symbol]
    ) -> None:
        self.module = module
        self.effects = Effects.of(module)
        self.evidence = evidence
        self.variables = variables
        self.containers = containers

    def of(self, group: Group) -> bool:
        """Two variables or more, with a word in common that names them, or behaviour that holds them together.

        One variable alone needs two routines that are about it and write nothing else; one that is called like it, or,
        for a list or table, three that have to do with nothing else. A thing of a library that is somewhere needs none
        if the program moves it about and draws it.
        """
        nouns = [set(self.evidence.nouns[variable]) for variable in group.variables]
        if self.containers.issuperset(group.variables) or self.are_copies(group) or self.is_only_asked(group):
            return False
        if self.is_half_handled(group):
            return False
        if len(group.variables) > 1:
            shared = {noun for noun in set.intersection(*nouns) if len(noun) > _SHORT_WORD}
            is_named = bool(shared) and not self.is_of_parts_only(group) and not self.are_several(group, shared)
            return is_named or self.is_held_together(group)
        if self.is_moved_about(group.variables[0]):
            return True
        about = [r for r in group.routines if self.state_written(r) == set(group.variables)]
        is_named = any(nouns[0] & set(self.evidence.nouns[routine]) for routine in about)
        return len(about) > 1 and (is_named or self.is_container_with_deeds(group))

    def is_only_asked(self, group: Group) -> bool:
        """Whether a group has no behaviour, and nothing ever changes what is in it: values to look up are no thing."""
        changing = (r for v in group.variables for r in v.references if _changes(r))
        return not group.routines and all(only_value(v) is not None for v in group.variables) and not any(changing)

    def is_half_handled(self, group: Group) -> bool:
        """Whether only others call what a group does, and one more such routine sets all of it, but is not the group's.

        A key that is pressed and let go is handled in one place.
        """
        handed = [r for r in self.module.functions if self.is_told_what_happens(r)]
        beside = [routine for routine in handed if routine not in group.routines]
        is_all_handed = bool(group.routines) and all(routine in handed for routine in group.routines)
        return is_all_handed and any(self.state_written(routine).issuperset(group.variables) for routine in beside)

    def is_told_what_happens(self, routine: Routine) -> bool:
        """Whether only others call a routine, which is named after what happened: `keyPressed`."""
        if not isinstance(routine, Function) or HAPPENING.isdisjoint(words_of(routine.name)):
            return False
        is_called = any(one.mode is Mode.CALL for one in routine.symbol.references)
        return not is_called or routine.name in Fronts.of(self.module).behind

    @staticmethod
    def are_several(group: Group, shared: set[str]) -> bool:
        """Whether a group has no behaviour, and all its names end with a word that they share: `lines`, `bad_lines`.

        With a list or table among them they are several of such things, not what belongs to one.
        """
        is_list = any(map(is_given_container, group.variables))
        ends = [nouns_of(variable.name)[-1:] for variable in group.variables]
        return not group.routines and is_list and all(shared.issuperset(end) for end in ends)

    @staticmethod
    def are_copies(group: Group) -> bool:
        """Whether half the variables are parts of things that numbers tell apart: one class would mix these up."""
        found = [match for v in group.variables if (match := _PART_OF_COPY.fullmatch(v.name)) is not None]
        return 2 * len(found) >= len(group.variables) and len({match["number"] for match in found}) > 1

    def is_container_with_deeds(self, group: Group) -> bool:
        """Whether a group is a list or table, and three routines or more have to do with no other state."""
        only = {value.sort for value in given_values(group.variables[0])}
        alone = [
            r
            for r in group.routines
            if self.effects.transitive[r].touches & set(self.variables) == set(group.variables)
        ]
        return bool(only) and only <= _CONTAINERS and len(alone) >= _FEWEST_DEEDS

    def is_offered(self, group: Group) -> bool:
        """Whether a group is one list or table with what goes with it, and a routine beside it offers what it can do.

        That is a menu then, or a console: it has the group, and is not the group.
        """
        held = [variable for variable in group.variables if is_given_container(variable)]
        beside = [routine for routine in self.module.functions if routine not in group.routines]
        offered = [len(self.effects.calls[routine] & set(group.routines)) for routine in beside]
        return len(held) == 1 and max(offered, default=0) >= _FEWEST_DEEDS

    def is_moved_about(self, variable: Symbol) -> bool:
        """Whether a variable always holds one thing of a library that is changed in several statements, and drawn."""
        maker, library = library_maker(self.module, variable), self.module.dialect.library
        if maker is None or not library.is_placed(final_name(maker)):
            return False
        changing = {r.statement for r in variable.references if r.path_mode is not None and r.path_mode.writes}
        shown = [r.statement for r in variable.references if r.statement is not None and not r.path]
        is_drawn = any(s.kind is Kind.EXPRESSION and job_of(self.module, s) is Job.DRAW for s in shown)
        return len(changing) >= _FEWEST_CHANGES and is_drawn

    def is_of_parts_only(self, group: Group) -> bool:
        """Whether a group has no behaviour, and holds things of a library that are made once and stay what they are."""
        made = [only_value(variable) for variable in group.variables]
        return not group.routines and all(only is not None and only.value.shape is Shape.CALL for only in made)

    def is_held_together(self, group: Group) -> bool:
        """Whether behaviour makes one thing of variables that no word in common names.

        Most of them have such a word, or a routine that works on most is called by one. Otherwise a routine must set
        half of them and more than one, or two must have to do with more than one. What has all the state and behaviour
        of a script is no part of it, but its owner; so is what has more than half of both, and neither a name nor a
        list or table.
        """
        words = (set(self.evidence.nouns[variable]) for variable in group.variables)
        nouns = Counter(noun for found in words for noun in found if len(noun) > _SHORT_WORD)
        half = len(group.variables) / 2
        if self.says_only_what_was_done(nouns):
            return False
        if max(nouns.values(), default=0) > half:
            return bool(group.routines)
        own = set(group.variables)
        told = [r for r in group.routines if self.is_told_what_happens(r)]
        telling = [r for r in group.routines if r not in told or len(told) > 1]
        touched = {r: len(self.effects.transitive[r].touches & own) for r in telling}
        working = [r for r, count in touched.items() if count > half]
        if self.is_nearly_all(group) and not self.is_offered(group):
            return False
        if any(nouns.keys() & set(self.evidence.nouns[r]) for r in working if words_of(r.name)[0] != _ON_EVENT):
            return True
        if min(self.shares(group)) > _HALF and not any(map(is_given_container, group.variables)):
            return False
        written = [len(self.state_written(r) & own) for r in working]
        is_worked_on = any(count > 1 and count >= half for count in written)
        is_joined = sum(count > 1 for count in touched.values()) > 1
        return is_worked_on or is_joined

    @staticmethod
    def says_only_what_was_done(nouns: Collection[str]) -> bool:
        """Whether words name no thing, and say what has been done with some: `caught`, `missed` and `state`."""
        named = [noun for noun in nouns if noun not in ATTRIBUTE_WORDS]
        return bool(named) and all(map(is_participle, named))

    def is_nearly_all(self, group: Group) -> bool:
        """Whether a group has most of the variables, and most of the routines that touch any.

        Of many routines nearly all tell it too where the group has half of the variables.
        """
        has_variables, has_routines = self.shares(group)
        is_of_many = len(self.working) >= _MANY and has_routines >= _NEARLY_ALL and has_variables > _HALF
        return is_of_many or (has_variables >= _NEARLY and has_routines >= _NEARLY)

    def shares(self, group: Group) -> tuple[float, float]:
        """How much of the variables a group has, and of the routines that touch any, from 0 to 1."""
        return len(group.variables) / len(set(self.variables)), len(group.routines) / max(len(self.working), 1)

    @cached_property
    def working(self) -> list[Function]:
        """The routines that touch any variable, but for the main code in one function."""
        state = set(self.variables)
        touching = [r for r in self.module.functions if self.effects.transitive[r].touches & state]
        return [function for function in touching if not self.is_main(function)]

    def is_main(self, function: Function) -> bool:
        """Whether a function is nothing but the main code, which the top level calls."""
        uses = (use for use in function.symbol.references if use is not function.named)
        statements = [use.statement for use in uses if use.statement is not None]
        is_called = all(s.kind is Kind.EXPRESSION and s.block is self.module.block for s in statements)
        return function.name == self.module.dialect.rules.entry and is_called

    def state_written(self, routine: Routine) -> set[Symbol]:
        """The variables that a routine sets or changes, itself or by what it calls."""
        return {symbol for symbol in self.effects.transitive[routine].writes if is_state(symbol)}


def _changes(reference: Reference) -> bool:
    """Whether a variable, or something in what it has, may be another afterwards."""
    return reference.path_mode is not None and reference.path_mode is not Mode.READ
