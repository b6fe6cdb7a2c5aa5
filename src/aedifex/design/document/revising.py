"""Changing a design: each function returns another one and leaves the first as it was."""

from __future__ import annotations

import re
from collections.abc import Iterable
from copy import deepcopy
from pathlib import Path

from aedifex.design.document.design import ClassPlan, Design, QuestionPlan
from aedifex.design.document.reading import nearest
from aedifex.program.dialect.dialect import Dialect
from aedifex.source.errors import DesignError
from aedifex.survey.words import words_of


def renamed(design: Design, name: str, new: str, dialect: Dialect) -> Design:
    """A class under another name, its file and object named after it.

    Raises:
        DesignError: there is no such class.
    """
    made = deepcopy(design)
    plan = _class(made, name)
    words = words_of(new)
    plan.name = new
    plan.instance = dialect.naming.member_name(words) or plan.instance
    suffix = plan.file[plan.file.rfind(".") :]
    taken = {other.file for other in made.classes if other is not plan}
    wish = plan.instance + suffix
    script = made.sources[0].path
    is_free = wish not in taken and not dialect.files.is_taken(plan.instance, Path(script).parent)
    if is_free and plan.file != script:
        plan.file = wish
    return made


def merged(design: Design, name: str, other: str) -> Design:
    """One class with the members of two; a member whose name is taken goes under the name that it has in the script.

    Raises:
        DesignError: there is no such class, or it is the same twice.
    """
    made = deepcopy(design)
    plan, gone = _class(made, name), _class(made, other)
    if plan is gone:
        raise DesignError(f"{name} cannot be merged with itself")
    _take_over(plan, gone)
    made.classes.remove(gone)
    return made


def split(design: Design, name: str, members: Iterable[str], new: str, dialect: Dialect) -> Design:
    """Some members of a class as a class of their own.

    Raises:
        DesignError: the class or a member does not exist, or nothing would be left in one of the two.
    """
    made = deepcopy(design)
    plan = _class(made, name)
    part = ClassPlan(new, plan.file, plan.instance, f"taken out of {name}")
    for member in members:
        _move(plan, part, member)
    if not part.fields or not plan.fields:
        raise DesignError("each of the two classes needs a field")
    made.classes.insert(made.classes.index(plan) + 1, part)
    return renamed(made, new, new, dialect)


def moved(design: Design, name: str, member: str, to: str | None) -> Design:
    """A member in another class, or with the owner where `to` is None.

    Raises:
        DesignError: the class or the member does not exist.
    """
    made = deepcopy(design)
    plan = _class(made, name)
    target = _class(made, to) if to is not None else ClassPlan("", "", "")
    _move(plan, target, member)
    if not plan.fields:
        made.classes.remove(plan)
    return made


def dropped(design: Design, name: str) -> Design:
    """The design without a class: what it had goes to the owner.

    Raises:
        DesignError: there is no such class.
    """
    made = deepcopy(design)
    made.classes.remove(_class(made, name))
    return made


def _class(design: Design, name: str) -> ClassPlan:
    for plan in design.classes:
        if plan.name == name:
            return plan
    raise DesignError(f"there is no class `{name}`", advice=nearest(name, [plan.name for plan in design.classes]))


def _names(plan: ClassPlan) -> set[str]:
    return {member.name for members in (plan.fields, plan.methods, plan.questions) for member in members}


def _take_over(plan: ClassPlan, gone: ClassPlan) -> None:
    kept = {field.name for field in gone.fields if field.name not in _names(plan)}
    plan.questions += [question for question in gone.questions if _asked_by(question) <= kept]
    for field in gone.fields:
        field.name = field.variable if field.name in _names(plan) else field.name
        plan.fields.append(field)
    for method in gone.methods:
        method.name = method.routine if method.name in _names(plan) else method.name
        plan.methods.append(method)


def _asked_by(question: QuestionPlan) -> set[str]:
    """The members that a question names."""
    return set(re.findall(r"\.\s*(\w+)", question.asks))


def _move(plan: ClassPlan, target: ClassPlan, member: str) -> None:
    for field in plan.fields:
        if member in (field.name, field.variable):
            plan.fields.remove(field)
            plan.questions = [question for question in plan.questions if field.name not in _asked_by(question)]
            _take_over(target, ClassPlan("", "", "", fields=[field]))
            return
    for method in plan.methods:
        if member in (method.name, method.routine):
            plan.methods.remove(method)
            _take_over(target, ClassPlan("", "", "", methods=[method]))
            return
    raise DesignError(f"{plan.name} has no member `{member}`", advice=nearest(member, sorted(_names(plan))))
