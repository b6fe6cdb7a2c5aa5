"""Where a class does several jobs: the members that would be a class of their own.

They are told by the sections that its author made of it, or else by the evidence of a draft.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from aedifex.design.drafting.clusters import clusters
from aedifex.design.drafting.naming import ACTION_WORDS, ATTRIBUTE_WORDS, Names, strip_nouns
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.members import Members
from aedifex.program.model.statements import Routine
from aedifex.survey.evidence import Field, Node
from aedifex.survey.member_evidence import MemberEvidence
from aedifex.survey.sections import Section, is_divided, sections_of
from aedifex.survey.words import nouns_of, singular

_FEWEST_MEMBERS = 3
_VALUE = "value"
_ITEMS = "items"
"""What a class calls the things that it is called after."""


@dataclass(frozen=True)
class Job:
    """Members of a class that belong together: the class they would be, its object's name, and their names in it.

    `is_headed` tells that the script itself has them under a heading.
    """

    class_name: str
    instance: str
    members: dict[str, str]
    is_headed: bool = False


def jobs_of(members: Members) -> Iterator[Job]:
    """The jobs of a class that could be classes of their own: fields with methods that have to do with them.

    One job is always the class's own: the one that is called like it, or else, where no headings tell, the largest.
    """
    sections = sections_of(members)
    if is_divided(members, sections):
        yield from _headed_jobs(members, sections)
    else:
        yield from _clustered_jobs(members)


def _headed_jobs(members: Members, sections: Iterable[Section]) -> Iterator[Job]:
    names = Names(members.module)
    naming = members.module.dialect.naming
    own = set(nouns_of(members.scope.name))
    evidence = MemberEvidence(members, ATTRIBUTE_WORDS, ACTION_WORDS)
    for section in sections:
        nouns = [singular(word) for word in section.words]
        if not _has_job(evidence, section) or not own.isdisjoint(nouns):
            continue
        old = [*section.fields, *(function.name for function in section.methods)]
        instance = naming.joined(*section.words)
        if instance in (*members.fields, *members.methods) and instance not in section.fields:
            instance = naming.joined("the", instance)
        new = _shortened(old, nouns, members)
        contents = _contents(members, instance) if instance in section.fields else ""
        if contents and contents not in new.values():
            new[instance] = contents
        yield Job(names.class_name(section.words), instance, new, is_headed=True)


def _has_job(evidence: MemberEvidence, section: Section) -> bool:
    """Whether a method of a section uses its fields, and calls no method of another one."""
    own = {function.name for function in section.methods}
    used = [evidence.used_by(function) & (set(evidence.members.methods) - own) for function in section.methods]
    apart = [function for function, others in zip(section.methods, used, strict=True) if not others]
    return any(not evidence.used_by(function).isdisjoint(section.fields) for function in apart)


def _shortened(old: Iterable[str], nouns: list[str], members: Members) -> dict[str, str]:
    new: dict[str, str] = {}
    for name in old:
        new[name] = strip_nouns(name.lstrip("_"), nouns, new.values(), members.module)
    return new


def _clustered_jobs(members: Members) -> Iterator[Job]:
    """By what is used together: fields with the methods that use no others."""
    evidence = MemberEvidence(members, ATTRIBUTE_WORDS, ACTION_WORDS)
    names = Names(members.module)
    for group in _with_own_left_out(members, evidence, clusters(list(evidence.edges), evidence.edges)):
        fields = [node.name for node in group if isinstance(node, Field)]
        methods = _methods_on(evidence, set(fields))
        noun = _noun(evidence, [*(Field(name) for name in fields), *methods])
        if not noun or len(fields) + len(methods) < _FEWEST_MEMBERS or not methods:
            continue
        old = [*fields, *(routine.name for routine in methods)]
        new = _shortened(old, [noun], members)
        if len(fields) == 1:
            new[fields[0]] = _contents(members, fields[0])
            noun = fields[0]
        is_free = noun not in (*members.fields, *members.methods) or noun in fields
        instance = noun if is_free else members.module.dialect.naming.joined("the", noun)
        yield Job(names.class_name([noun]), instance, new)


def _contents(members: Members, field: str) -> str:
    """What a class that is called after its one field calls that: by what the field holds."""
    holdings = Holdings.of(members.module)
    held = holdings.member_of(holdings.instance_of(members.scope), field)
    is_container = held is not None and (held.now.element is not None or held.now.is_table)
    return _ITEMS if is_container else _VALUE


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
