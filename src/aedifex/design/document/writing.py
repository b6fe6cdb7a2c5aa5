"""Reading and writing the design file (`*.design.toml`)."""

from __future__ import annotations

import os
import textwrap
from collections.abc import Iterable, Sequence
from dataclasses import replace
from pathlib import Path

from aedifex.design.document.design import (
    FORMAT,
    BasePlan,
    ClassPlan,
    ConstantPlan,
    DataPlan,
    Design,
    FieldPlan,
    KindPlan,
    MethodPlan,
    PartPlan,
    QuestionPlan,
    SourcePlan,
    TextPlan,
)

_WIDTH = 98

Member = FieldPlan | MethodPlan | QuestionPlan
"""What a design says of one member of a class."""


def write(design: Design) -> str:
    """The text of a design file: what was doubtful first, then every decision with its reason."""
    lines = [f"format = {FORMAT}", ""]
    if design.doubts:
        lines += ["# Not sure of this; look here first:", *(f"#   {doubt}" for doubt in design.doubts), ""]
    for source in design.sources:
        lines += [
            "[[source]]",
            f"path = {_quoted(source.path)}",
            f"digest = {_quoted(source.digest)}",
            "",
        ]
    lines += ["[owner]", f"name = {_quoted(design.owner)}"]
    if design.owner_file:
        lines.append(f"file = {_quoted(design.owner_file)}")
    if design.owner_why:
        lines.append(f"why = {_quoted(design.owner_why)}")
    if not design.is_lifted:
        lines.append("lifted = false  # the main code stays at the top level; only the classes beside it are made")
    if design.has_fronts:
        lines.append("fronts = true  # what is found by its name stays, and hands on to a method")
    if design.streams:
        lines.append("streams = true  # it alone talks to the user, so it can take a reader and a writer")
    if design.prefix:
        lines.append(f"prefix = {_quoted(design.prefix)}  # the routes are told to a part that begins so")
    if design.keeps:
        lines.append(write_keeps(design.keeps))
    lines += _listed("methods", design.methods)
    for constant in design.constants:
        lines += ["", write_constant(constant).rstrip()]
    for text in design.texts:
        lines += ["", write_text_plan(text).rstrip()]
    for part in design.parts:
        lines += ["", write_part(part).rstrip()]
    for data in design.data:
        lines += ["", write_data(data).rstrip()]
    for base in design.bases:
        lines += ["", write_base(base).rstrip()]
    for plan in design.all_classes:
        lines += ["", *_class_lines(plan)]
    return "\n".join(lines) + "\n"


def write_constant(plan: ConstantPlan) -> str:
    """The text of one constant in a design file."""
    lines = ["[[constant]]", f"name = {_quoted(plan.name)}", f"value = {_quoted(plan.value)}"]
    lines += [f"computed = {_quoted(plan.computed)}"] if plan.computed else []
    lines += [f"passed = {_quoted(plan.passed)}"] if plan.passed else []
    lines += [f"lines = [{', '.join(map(str, plan.lines))}]"]
    lines += [f"why = {_quoted(plan.why)}"] if plan.why else []
    return "\n".join(lines) + "\n"


def write_text_plan(plan: TextPlan) -> str:
    """The text of one long text's place in a design file."""
    lines = ["[[text]]", f"file = {_quoted(plan.file)}", f"begins = {plan.begins}"]
    lines += [f"name = {_quoted(plan.name)}"] if plan.name else []
    return "\n".join(lines) + "\n"


def write_part(plan: PartPlan) -> str:
    """The text of one part of a class of the script in a design file."""
    lines = ["[[part]]", f"name = {_quoted(plan.name)}", f"of = {_quoted(plan.whole)}"]
    lines += [f"object = {_quoted(plan.instance)}"]
    lines += [f"why = {_quoted(plan.why)}"] if plan.why else []
    lines += ["fields = [", *(f"  {_renamed(member)}," for member in plan.fields), "]"]
    return "\n".join([*lines, *_listed("methods", plan.methods)]) + "\n"


def write_data(plan: DataPlan) -> str:
    """The text of one class of a list of records in a design file."""
    lines = ["[[data]]", f"name = {_quoted(plan.name)}", f"file = {_quoted(plan.file)}"]
    lines += [f"from = {_quoted(plan.variable)}"]
    lines += [f"missing = {_quoted(plan.missing)}"] if plan.missing else []
    return "\n".join(lines) + "\n"


def write_base(plan: BasePlan) -> str:
    """The text of one class from which others come, in a design file."""
    lines = ["[[base]]", f"name = {_quoted(plan.name)}", f"file = {_quoted(plan.file)}"]
    lines += [f"of = [{', '.join(map(_quoted, plan.children))}]"]
    lines += [f"why = {_quoted(plan.why)}"] if plan.why else []
    return "\n".join(lines) + "\n"


def write_class(plan: ClassPlan | KindPlan) -> str:
    """The text of one class in a design file."""
    return "\n".join(_class_lines(plan)) + "\n"


def _class_lines(plan: ClassPlan | KindPlan) -> list[str]:
    instances = plan.instances if isinstance(plan, KindPlan) else [plan.instance]
    lines = [
        "[[class]]",
        f"name = {_quoted(plan.name)}" + (f"  # or {', '.join(plan.second)}" if plan.second else ""),
        f"file = {_quoted(plan.file)}",
        *([f"store = {_quoted(plan.store)}"] if isinstance(plan, KindPlan) else []),
        f"instances = [{', '.join(map(_quoted, instances))}]",
        *([f"held = {_quoted(plan.held)}"] if isinstance(plan, KindPlan) and plan.held else []),
        f"why = {_quoted(plan.why)}",
    ]
    if plan.fields or isinstance(plan, ClassPlan):
        lines += ["fields = [", *(_member_line(field) for field in plan.fields), "]"]
    return lines + _listed("methods", plan.methods) + _listed("questions", plan.questions)


def _listed(key: str, members: Sequence[Member]) -> list[str]:
    return [f"{key} = [", *map(_member_line, members), "]"] if members else []


def reason_of(plan: Member) -> str:
    """How sure the draft is of a member, and why it is there; empty where nobody said."""
    sure = f"{plan.sure:.0%} sure: " if plan.sure is not None else ""
    return f"{sure}{plan.why}" if plan.why else ""


def write_member(plan: Member) -> str:
    """The table of one member, on one line."""
    if isinstance(plan, QuestionPlan):
        return f"{{ asks = {_quoted(plan.asks)}, name = {_quoted(plan.name)} }}"
    if isinstance(plan, FieldPlan):
        return f"{{ from = {_sources(plan)}, name = {_quoted(plan.name)}, start = {_quoted(plan.start)} }}"
    return _renamed(plan)


def _renamed(plan: FieldPlan | MethodPlan) -> str:
    lines = plan.lines if isinstance(plan, MethodPlan) else None
    span = f', lines = "{lines[0]}-{lines[1]}"' if lines is not None else ""
    values = plan.values if isinstance(plan, MethodPlan) else ()
    given = f", with = [{', '.join(map(_quoted, values))}]" if values else ""
    given += ", answers = true" if isinstance(plan, MethodPlan) and plan.answers else ""
    return f"{{ from = {_sources(plan)}{span}, name = {_quoted(plan.name)}{given} }}"


def _sources(plan: FieldPlan | MethodPlan) -> str:
    first, *others = map(_quoted, plan.sources)
    return f"[{', '.join([first, *others])}]" if others else first


def _member_line(plan: Member) -> str:
    reason = reason_of(plan)
    return f"  {write_member(plan)}," + (f"  # {reason}" if reason else "")


def write_keeps(names: Iterable[str]) -> str:
    """The list of what stays with the owner."""
    wrapped = textwrap.wrap(", ".join(map(_quoted, names)), _WIDTH, break_long_words=False)
    return "\n".join(["keeps = [", *(f"  {line}" for line in wrapped), "]"])


def _quoted(text: str) -> str:
    import tomlkit

    is_plainer = '"' in text and "'" not in text and "\n" not in text
    return tomlkit.string(text, literal=is_plainer).as_string()


def placed(design: Design, script: Path, folder: Path) -> Design:
    """The design as a file in `folder` says it: the script's path from there."""
    path = os.path.relpath(script.resolve(), folder.resolve())
    first, *others = design.sources
    return replace(design, sources=[SourcePlan(Path(path).as_posix(), first.digest), *others])
