"""Expressions as trees: for those who ask what becomes of a value."""

from __future__ import annotations

from collections.abc import Callable

from tree_sitter import Node

from aedifex.languages.python.library.containers import BARE_OBJECTS
from aedifex.languages.python.reader import grammar
from aedifex.languages.python.reader.expressions import constant_key
from aedifex.languages.python.reader.shapes import CONSTANTS, PATTERNS
from aedifex.languages.tree.expression_trees import TreeBuilder
from aedifex.languages.tree.grammar import parts
from aedifex.program.model.expressions import NEGATED, Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin

_DEEPEST = 120
_DISPLAYS = {
    "list": Sense.LIST,
    "tuple": Sense.TUPLE,
    "expression_list": Sense.TUPLE,
    "set": Sense.GROUP,
    **dict.fromkeys(PATTERNS, Sense.TUPLE),
}
_COMPARISONS = {"==": Sense.EQUAL, "!=": Sense.EQUAL, "is": Sense.SAME, "is not": Sense.SAME, "in": Sense.WITHIN}
_COMPARISONS["not in"] = Sense.WITHIN
_OPERATORS = {
    "and": Operator.BOTH,
    "or": Operator.EITHER,
    "<": Operator.LESS,
    ">": Operator.MORE,
    "<=": Operator.AT_MOST,
    ">=": Operator.AT_LEAST,
    "+": Operator.PLUS,
    "-": Operator.MINUS,
    "*": Operator.TIMES,
    "/": Operator.DIVIDED,
    "//": Operator.WHOLE_DIVIDED,
    "%": Operator.REST,
}
_COMPREHENSIONS = frozenset(
    {"list_comprehension", "set_comprehension", "dictionary_comprehension", "generator_expression"}
)
_NAMES_ONLY = frozenset(
    "global_statement nonlocal_statement import_statement import_from_statement future_import_statement".split()
)
_DEFINITIONS = frozenset({"function_definition", "class_definition", "decorated_definition"})


def expression_trees(module: Module) -> list[Expression]:
    """The expressions of a file, statement by statement, in the order of the text."""
    root = grammar.parse(module.source).root_node
    return _Trees(module).all_below(root)


class _Trees(TreeBuilder):
    def __init__(self, module: Module) -> None:
        super().__init__(module, module.source.parse_view)
        self.builders: dict[str, Callable[[Node, int], Expression]] = {
            "identifier": self.name,
            "attribute": self.member,
            "subscript": self.part,
            "call": self.call,
            "dictionary": self.table,
            "conditional_expression": self.choice,
            "boolean_operator": self.either,
            "comparison_operator": self.comparison,
            "binary_operator": self.operation,
            "string": self.string,
            "lambda": self.function,
            "named_expression": self.named,
            "keyword_argument": self.keyword,
            "assignment": self.assignment,
            "for_in_clause": self.walk,
            **dict.fromkeys(_COMPREHENSIONS, self.each),
        }

    def all_below(self, root: Node) -> list[Expression]:
        waiting = list(reversed(root.named_children))
        while waiting:
            node = waiting.pop()
            self.statement = self.statement_of(node)
            waiting.extend(reversed(self.read_statement(node)))
        return self.roots

    def read_statement(self, node: Node) -> list[Node]:
        """Read what a statement says itself; answer what holds further statements."""
        kind = node.type
        if kind == "expression_statement":
            self.stand_alone(node)
            return []
        if kind in ("block", "module", "case_clause") or kind.endswith("_clause") or kind in _DEFINITIONS:
            return self.read_parts(node)
        if kind.endswith("_statement"):
            return self.read_parts(node)
        return []

    def read_parts(self, node: Node) -> list[Node]:
        kind = node.type
        if kind in ("block", "module"):
            return parts(node)
        if kind == "for_statement":
            self.add(Sense.WALK, node, [node.child_by_field_name("left"), *node.children_by_field_name("right")])
        elif kind in ("while_statement", "if_statement", "elif_clause"):
            self.add(Sense.TEST, node, [node.child_by_field_name("condition")])
        elif kind == "return_statement":
            self.add(Sense.RETURN, node, parts(node))
            return []
        elif kind in _NAMES_ONLY:
            return []
        elif kind == "function_definition":
            self.defaults(node)
        elif kind == "class_definition":
            self.add(Sense.OTHER, node, [node.child_by_field_name("superclasses")])
        elif kind == "delete_statement":
            inner = [p for child in parts(node) for p in (parts(child) if child.type in _DISPLAYS else [child])]
            self.add(Sense.DELETE, node, inner)
            return []
        else:
            others = [child for child in parts(node) if not _holds_statements(child)]
            self.add(Sense.OTHER, node, others)
        return [child for child in parts(node) if _holds_statements(child)]

    def defaults(self, node: Node) -> None:
        """What a routine's parameters are where they are not given."""
        parameters = node.child_by_field_name("parameters")
        for child in parts(parameters) if parameters is not None else ():
            name, value = child.child_by_field_name("name"), child.child_by_field_name("value")
            if name is not None and value is not None:
                self.add(Sense.SET, child, [name, value])

    def stand_alone(self, node: Node) -> None:
        for inner in parts(node):
            if inner.type == "augmented_assignment":
                sides = [inner.child_by_field_name("left"), inner.child_by_field_name("right")]
                self.add(Sense.UPDATE, inner, list(sides))
                self.roots[-1].operator = _operator(inner)
            elif inner.type == "assignment":
                self.roots.append(self.assignment(inner, 0))
            else:
                self.add(Sense.ALONE, inner, [inner])

    # -- expressions

    def build(self, node: Node, depth: int) -> Expression:
        kind = node.type
        if depth > _DEEPEST:
            return self.flat(node)
        if kind == "parenthesized_expression":
            inner = parts(node)
            return self.build(inner[0], depth + 1) if len(inner) == 1 else self.other(node, depth)
        if kind == "none":
            return self.made(Sense.NOTHING, node)
        if kind in CONSTANTS:
            return self.made(Sense.CONSTANT, node)
        if kind in _DISPLAYS:
            return self.made(_DISPLAYS[kind], node, [self.build(child, depth + 1) for child in parts(node)])
        if kind in ("not_operator", "unary_operator"):
            sense = Sense.NOT if kind == "not_operator" else Sense.OPERATION
            return self.made(sense, node, [self.build(child, depth + 1) for child in parts(node)])
        if kind in ("list_splat", "dictionary_splat", "list_splat_pattern", "parenthesized_list_splat"):
            return self.made(Sense.SPREAD, node, [self.build(child, depth + 1) for child in parts(node)])
        builder = self.builders.get(kind)
        return builder(node, depth) if builder is not None else self.other(node, depth)

    def member(self, node: Node, depth: int) -> Expression:
        inner, attribute = node.child_by_field_name("object"), node.child_by_field_name("attribute")
        assert inner is not None and attribute is not None
        found = self.made(Sense.MEMBER, node, [self.build(inner, depth + 1)])
        found.name = self.text_of(attribute).decode()
        return found

    def part(self, node: Node, depth: int) -> Expression:
        inner, keys = node.child_by_field_name("value"), node.children_by_field_name("subscript")
        assert inner is not None
        is_slice = any(key.type == "slice" for key in keys)
        found = self.made(Sense.SLICE if is_slice else Sense.PART, node, [self.build(inner, depth + 1)])
        found.parts += [self.build(key, depth + 1) for key in keys]
        if len(keys) == 1:
            found.name = constant_key(self.text_of(keys[0]), keys[0])
        return found

    def call(self, node: Node, depth: int) -> Expression:
        callee, arguments = node.child_by_field_name("function"), node.child_by_field_name("arguments")
        assert callee is not None and arguments is not None
        given = parts(arguments) if arguments.type == "argument_list" else [arguments]
        found = self.made(Sense.CALL, node, [self.build(callee, depth + 1)])
        names: list[str] = []
        for argument in given:
            name, built = "", self.build(argument, depth + 1)
            if argument.type == "keyword_argument":
                key = argument.child_by_field_name("name")
                name = self.text_of(key).decode() if key is not None else ""
            elif built.sense is Sense.SPREAD:
                name = "**" if argument.type == "dictionary_splat" else "*"
                built = built.parts[0]
            names.append(name)
            found.parts.append(built)
        found.names = tuple(names)
        base = found.parts[0].reference
        if not names and base is not None and base.name == "super" and base.symbol.origin is Origin.BUILTIN:
            found.sense = Sense.BASE
        elif all(name.isidentifier() for name in names) and self.makes_bare_object(found.parts[0]):
            found.sense = Sense.RECORD
        return found

    @staticmethod
    def makes_bare_object(callee: Expression) -> bool:
        inner = callee.parts[0] if callee.sense is Sense.MEMBER else callee
        imported = inner.reference.symbol.imported if inner.reference is not None else None
        if imported is None or inner.sense is not Sense.NAME:
            return False
        name = callee.name if callee.sense is Sense.MEMBER and imported.name is None else imported.name
        return (imported.module, name) in BARE_OBJECTS

    def keyword(self, node: Node, depth: int) -> Expression:
        value = node.child_by_field_name("value")
        assert value is not None
        return self.build(value, depth + 1)

    def table(self, node: Node, depth: int) -> Expression:
        found = self.made(Sense.TABLE, node)
        names: list[str | None] = []
        for child in parts(node):
            key, value = child.child_by_field_name("key"), child.child_by_field_name("value")
            if key is None or value is None:
                return self.other(node, depth)
            is_text = key.type == "string"
            names.append(constant_key(self.text_of(key), key) if is_text else None)
            found.parts += [self.build(key, depth + 1), self.build(value, depth + 1)]
        found.names = tuple(names)
        return found

    def choice(self, node: Node, depth: int) -> Expression:
        first, condition, last = (self.build(child, depth + 1) for child in parts(node))
        return self.made(Sense.CHOICE, node, [condition, first, last])

    def either(self, node: Node, depth: int) -> Expression:
        found = self.made(Sense.EITHER, node, [self.build(child, depth + 1) for child in parts(node)])
        found.operator = _operator(node)
        return found

    def comparison(self, node: Node, depth: int) -> Expression:
        operands = [self.build(child, depth + 1) for child in parts(node)]
        operators = [child.type for child in node.children if not child.is_named or child.type in _COMPARISONS]
        sense = _COMPARISONS.get(operators[0], Sense.OPERATION) if len(operators) == 1 else Sense.OPERATION
        found = self.made(sense, node, operands)
        found.name = NEGATED if operators[0] in ("!=", "is not", "not in") else None
        found.operator = _OPERATORS.get(operators[0]) if len(operators) == 1 else None
        return found

    def operation(self, node: Node, depth: int) -> Expression:
        operator = _operator(node)
        is_sum = operator in (Operator.PLUS, Operator.TIMES)
        built = [self.build(child, depth + 1) for child in parts(node)]
        found = self.made(Sense.SUM if is_sum else Sense.OPERATION, node, built)
        found.operator = operator
        return found

    def string(self, node: Node, depth: int) -> Expression:
        shown = [child for child in node.named_children if child.type == "interpolation"]
        if not shown:
            constant = self.made(Sense.CONSTANT, node)
            constant.name = constant_key(self.text_of(node), node)
            return constant
        found = self.made(Sense.TEXT, node)
        for place in shown:
            found.parts += [self.build(child, depth + 1) for child in parts(place) if child.type != "type_conversion"]
        return found

    def function(self, node: Node, depth: int) -> Expression:
        body, parameters = node.child_by_field_name("body"), node.child_by_field_name("parameters")
        assert body is not None
        found = self.made(Sense.FUNCTION, node, [self.build(body, depth + 1)])
        if parameters is not None:
            defaults = [child.child_by_field_name("value") for child in parts(parameters)]
            found.parts += [self.build(value, depth + 1) for value in defaults if value is not None]
        return found

    def named(self, node: Node, depth: int) -> Expression:
        return self.made(Sense.NAMED, node, [self.build(child, depth + 1) for child in parts(node)])

    def assignment(self, node: Node, depth: int) -> Expression:
        targets: list[Expression] = []
        right: Node | None = node
        while right is not None and right.type == "assignment":
            left = right.child_by_field_name("left")
            assert left is not None
            targets.append(self.build(left, depth + 1))
            right = right.child_by_field_name("right")
        value = [self.build(right, depth + 1)] if right is not None else []
        return self.made(Sense.SET if value else Sense.OTHER, node, [*targets, *value])

    def walk(self, node: Node, depth: int) -> Expression:
        left = node.child_by_field_name("left")
        assert left is not None
        rights = [self.build(right, depth + 1) for right in node.children_by_field_name("right")]
        return self.made(Sense.WALK, node, [self.build(left, depth + 1), *rights])

    def each(self, node: Node, depth: int) -> Expression:
        found = self.made(Sense.EACH, node)
        for child in parts(node):
            if child.type == "pair":
                found.parts += [self.build(inner, depth + 1) for inner in parts(child)]
                found.name = "table"
            elif child.type == "if_clause":
                found.parts.append(self.made(Sense.TEST, child, [self.build(c, depth + 1) for c in parts(child)]))
            else:
                found.parts.append(self.build(child, depth + 1))
        return found


def _operator(node: Node) -> Operator | None:
    """The operator of a node; that of an augmented assignment without its equals sign."""
    operator = node.child_by_field_name("operator")
    return _OPERATORS.get(operator.type.removesuffix("=") or "=") if operator is not None else None


def _holds_statements(node: Node) -> bool:
    return node.type == "block" or node.type.endswith("_clause") or node.type in _DEFINITIONS
