"""Where a class does several jobs: the members that would be a class of their own, by the evidence of a draft."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.design.drafting.clusters import clusters
from aedifex.design.drafting.naming import ACTION_WORDS, ATTRIBUTE_WORDS, Names, strip_nouns
from aedifex.program.analysis.members import Members
from aedifex.program.model.statements import Routine
from aedifex.survey.evidence import Field, Node
from aedifex.survey.member_evidence import MemberEvidence
from aedifex.survey.words import nouns_of

_FEWEST_FIELDS = 2


@dataclass(frozen=True)
class Job:
    """Members of a class that belong together: the class they would be, its object's name, and their names in it."""

    class_name: str
    instance: str
    members: dict[str, str]


def jobs_of(members: Members) -> Iterator[Job]:
    """The jobs of a class that could be classes of their own: fields with the methods that use no others.

    One job is always the class's own: the one that is called like it, or else the largest.
    """
    evidence = MemberEvidence(members, ATTRIBUTE_WORDS, ACTION_WORDS)
    names = Names(members.module)
    for group in _with_own_left_out(members, evidence, clusters(list(evidence.edges), evidence.edges)):
        fields = [node.name for node in group if isinstance(node, Field)]
        methods = _methods_on(evidence, set(fields))
        noun = _noun(evidence, [*(Field(name) for name in fields), *methods])
        if len(fields) < _FEWEST_FIELDS or not methods or not noun:
            continue
        instance = noun if noun not in (*members.fields, *members.methods) else f"the_{noun}"
        new: dict[str, str] = {}
        for old in (*fields, *(routine.name for routine in methods)):
            new[old] = strip_nouns(old.lstrip("_"), [noun], new.values(), members.module)
        yield Job(names.class_name([noun]), instance, new)


def _with_own_left_out(members: Members, evidence: MemberEvidence, groups: list[list[Node]]) -> list[list[Node]]:
    words = set(nouns_of(members.scope.name))
    with_fields = [group for group in groups if any(isinstance(node, Field) for node in group)]
    own = max(with_fields, key=lambda group: (_noun(evidence, group) in words, len(group)), default=None)
    return [group for group in with_fields if group is not own]


def _methods_on(evidence: MemberEvidence, fields: set[str]) -> list[Routine]:
    """The methods that use some of these fields, and nothing of the object but them and one another."""
    known = {routine.name: routine for routine in evidence.routines}
    chosen = dict(known)
    while True:
        unfit = [n for n, routine in chosen.items() if not evidence.used_by(routine) <= fields | chosen.keys()]
        if not unfit:
            break
        for name in unfit:
            del chosen[name]
    return [routine for routine in chosen.values() if evidence.used_by(routine) & fields]


def _noun(evidence: MemberEvidence, nodes: list[Node]) -> str:
    """The word that most names of a group begin with, or have in them."""
    words: Counter[str] = Counter()
    for node in nodes:
        for place, noun in enumerate(evidence.nouns[node]):
            words[noun] += 3 if place == 0 else 2
    return max(words, key=lambda noun: (words[noun], noun), default="")
