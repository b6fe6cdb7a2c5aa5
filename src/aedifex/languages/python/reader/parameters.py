"""Reading parameter lists."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from tree_sitter import Node

from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import Use
from aedifex.program.model.names import Form, Mode, Scope
from aedifex.program.model.statements import Parameter, ParameterKind, Routine

if TYPE_CHECKING:
    from aedifex.languages.python.reader.expressions import ExpressionReader


def read_parameters(reader: ExpressionReader, node: Node | None, routine: Routine, outer: Scope) -> None:
    """Read a parameter list: names into the routine's scope, defaults and annotations into `outer`."""
    if node is None:
        return
    kind = ParameterKind.PLAIN
    for child in parts(node):
        if child.type == "positional_separator":
            routine.parameters[:] = [_positional_only(parameter) for parameter in routine.parameters]
        elif child.type == "keyword_separator":
            kind = ParameterKind.KEYWORD_ONLY
        else:
            kind = _parameter(reader, child, routine, outer, kind)


def _parameter(
    reader: ExpressionReader, node: Node, routine: Routine, outer: Scope, kind: ParameterKind
) -> ParameterKind:
    target, default = node, None
    if node.type in ("default_parameter", "typed_default_parameter"):
        found = node.child_by_field_name("name")
        assert found is not None
        target, default = found, node.child_by_field_name("value")
    elif node.type == "typed_parameter":
        target = parts(node)[0]
    annotation = node.child_by_field_name("type")
    reader.read(annotation, outer)
    reader.read(default, outer)
    this = kind
    if target.type == "list_splat_pattern":
        this = ParameterKind.REST
        kind = ParameterKind.KEYWORD_ONLY
    elif target.type == "dictionary_splat_pattern":
        this = ParameterKind.KEYWORD_REST
    if target.type != "identifier":
        target = parts(target)[0]
    reference = reader.name(target, routine.scope, Use(Mode.WRITE, Form.PARAMETER))
    value = reader.value(default) if default is not None else None
    declared = reader.span(annotation) if annotation is not None else None
    routine.parameters.append(Parameter(reference, node.start_byte, node.end_byte, this, value, declared))
    return kind


def _positional_only(parameter: Parameter) -> Parameter:
    return replace(parameter, kind=ParameterKind.POSITIONAL_ONLY)
