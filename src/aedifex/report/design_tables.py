"""What `draft` shows of a design."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from aedifex.design.document.design import Design, KindPlan, MethodPlan, QuestionPlan
from aedifex.report.layout import counted, listed, table


def design_tables(design: Design) -> Iterator[RenderableType]:
    """The owner, the classes with their members and reasons, and the doubts."""
    yield Text.assemble(
        ("Owner ", "bold") if design.is_lifted else ("No owner", "bold"),
        f"{design.owner}; " if design.is_lifted else ": the main code stays at the top level; ",
        counted(len(design.all_classes) + len(design.parts) + len(design.bases) + len(design.data), "class", "classes"),
        " beside it",
        f": {design.owner_why}" if design.owner_why else "",
    )
    if design.parts or design.data or design.all_classes or design.methods:
        yield _classes(design)
    if design.constants or design.texts:
        yield _values(design)
    if design.doubts:
        yield Text("Not sure of this; look here first:", style="bold")
        for doubt in design.doubts:
            yield Text(f"  {doubt}")
        yield Text()


def _methods(plans: Sequence[MethodPlan], questions: Sequence[QuestionPlan] = ()) -> str:
    """Methods by name, with the lines that some of them are made of, and what is asked that others answer."""
    made = (f"{plan.name}()" + (f" of {_lines(*plan.lines)}" if plan.lines is not None else "") for plan in plans)
    return listed([*made, *(f"{question.name}()" for question in questions)])


def _lines(first: int, last: int) -> str:
    return f"line {first}" if first == last else f"lines {first}-{last}"


def _values(design: Design) -> Table:
    found = table("named", "is", "lines")
    for constant in design.constants:
        found.add_row(constant.name, constant.computed or constant.value, listed(map(str, constant.lines)))
    for text in design.texts:
        found.add_row(text.name or "-", text.file, str(text.begins))
    return found


def _classes(design: Design) -> Table:
    found = table("class", "fields", "methods", "why", shares=(None, 2, 2, 3))

    def add(name: str, fields: str, methods: str, why: str) -> None:
        if found.row_count:
            found.add_row()
        found.add_row(name, fields, methods, why)

    for part in design.parts:
        fields = listed(field.name for field in part.fields)
        add(f"{part.name}\npart of {part.whole}", fields, _methods(part.methods), part.why)
    for data in design.data:
        methods = listed(f"{name}()" for name in data.methods)
        add(f"{data.name}\n{data.file}", data.variable, methods, "functions look for some of its records")
    for base in design.bases:
        add(f"{base.name}\n{base.file}", "", f"what {listed(base.children)} share", base.why)
    for plan in design.all_classes:
        many = "\nseveral objects" if isinstance(plan, KindPlan) and plan.is_of_many else ""
        add(
            f"{plan.name}\n{plan.file}{many}",
            listed(field.name for field in plan.fields),
            _methods(plan.methods, plan.questions),
            plan.why,
        )
    if design.methods:
        add(f"{design.owner}\nthe owner", "the rest", _methods(design.methods), "cut out of long code")
    return found
