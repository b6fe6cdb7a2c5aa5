"""The evidence on the members of a class that the script itself defines: the same grounds as for loose variables."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from functools import cached_property

from aedifex.program.analysis.members import Members, Mention
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.statements import Block, Routine, Statement
from aedifex.survey.evidence import Evidence, Field, Variable


class MemberEvidence(Evidence):
    """The evidence on the fields of a class, and on those of its methods that have to do with them.

    `weak` and `verbs` are the words that say something about a thing and do not name it.
    """

    def __init__(self, members: Members, weak: frozenset[str], verbs: frozenset[str]) -> None:
        super().__init__(members.module, [Field(name) for name in members.fields], weak, verbs)
        self.members = members

    @cached_property
    def routines(self) -> list[Routine]:
        """The methods that use fields or other methods, the constructor excepted."""
        return [r for r in self.members.functions if not self.module.dialect.rules.is_constructor(r.name)]

    @cached_property
    def _inside(self) -> dict[Routine, list[tuple[str, Mention]]]:
        """What each method mentions on its receiver."""
        found: dict[Routine, list[tuple[str, Mention]]] = {routine: [] for routine in self.members.functions}
        for name in [*self.members.fields, *self.members.methods]:
            for mention in self.members.mentions(name):
                routine = mention.reference.symbol.scope.routine
                if mention.is_inside and routine in found:
                    found[routine].append((name, mention))
        return found

    @cached_property
    def _by_statement(self) -> dict[Statement | None, list[Field]]:
        found: dict[Statement | None, list[Field]] = {}
        for used in self._inside.values():
            for name, mention in sorted(used, key=lambda pair: pair[1].access.end):
                if Field(name) in self._known:
                    found.setdefault(mention.reference.statement, []).append(Field(name))
        return found

    def used_by(self, routine: Routine) -> set[str]:
        """The members that a method mentions on its receiver."""
        return {name for name, _ in self._inside[routine]}

    def _touched(self, routine: Routine) -> list[Variable]:
        used = self.used_by(routine)
        return [v for v in self.variables if v.name in used]

    def _written(self, routine: Routine) -> Collection[Variable]:
        return {Field(name) for name, use in self._inside[routine] if may_change_object(use.reference, self.module)}

    def _callees(self, routine: Routine) -> Collection[Routine]:
        used = self.used_by(routine)
        return [other for other in self.routines if other.name in used]

    def _named_in(self, statement: Statement) -> Iterator[Variable]:
        return iter(self._by_statement.get(statement, ()))

    @property
    def _home(self) -> Block | None:
        constructor = self.members.constructor
        return constructor.body if constructor is not None else None

    def _first_set(self, variable: Variable) -> Statement | None:
        return next((s for s in self._by_statement if variable in self._by_statement[s]), None)
