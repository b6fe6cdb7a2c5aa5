"""Expressions of a JavaScript file as trees."""

from __future__ import annotations

from collections.abc import Callable

from tree_sitter import Node

from aedifex.languages.javascript.page_code import code_of
from aedifex.languages.javascript.reader import grammar
from aedifex.languages.javascript.reader.shapes import CONSTANTS, FUNCTIONS, pattern_pairs, plain_key
from aedifex.languages.tree.expression_trees import TreeBuilder
from aedifex.languages.tree.grammar import parts
from aedifex.program.model.expressions import NEGATED, Expression, Operator, Sense
from aedifex.program.model.module import Module

_DEEPEST = 100
_HOLDING = frozenset(
    "program statement_block switch_body class_body else_clause finally_clause labeled_statement".split()
)
_TESTING = frozenset({"if_statement", "while_statement", "do_statement"})
_SENSES = {
    "array": Sense.LIST,
    "array_pattern": Sense.LIST,
    "spread_element": Sense.SPREAD,
    "rest_pattern": Sense.SPREAD,
}
_COMPARISONS = {
    "===": Sense.EQUAL,
    "==": Sense.EQUAL,
    "!==": Sense.EQUAL,
    "!=": Sense.EQUAL,
    "in": Sense.WITHIN,
    "instanceof": Sense.KIND,
}
_OPERATORS = {
    "&&": Operator.BOTH,
    "||": Operator.EITHER,
    "<": Operator.LESS,
    ">": Operator.MORE,
    "<=": Operator.AT_MOST,
    ">=": Operator.AT_LEAST,
    "+": Operator.PLUS,
    "-": Operator.MINUS,
    "*": Operator.TIMES,
    "/": Operator.DIVIDED,
    "%": Operator.REST,
}


def expression_trees(module: Module) -> list[Expression]:
    """The expressions of a file, statement by statement, in the order of the text."""
    tree = grammar.parse(module.source, code_of(module.source))
    return _Builder(module).all_below(tree.root_node)


class _Builder(TreeBuilder):
    def __init__(self, module: Module) -> None:
        super().__init__(module, module.source.parse_view)
        self.waiting: list[Node] = []
        self.builders: dict[str, Callable[[Node, int], Expression]] = {
            "member_expression": self.member,
            "subscript_expression": self.part,
            "call_expression": self.call,
            "new_expression": self.call,
            "object": self.table,
            "object_pattern": self.pattern,
            "ternary_expression": self.choice,
            "binary_expression": self.operation,
            "unary_expression": self.unary,
            "update_expression": self.update,
            "augmented_assignment_expression": self.update,
            "assignment_expression": self.named,
            "string": self.string,
            "template_string": self.text,
            "class": self.class_value,
            "method_definition": self.function,
            **dict.fromkeys(FUNCTIONS, self.function),
        }

    def all_below(self, root: Node) -> list[Expression]:
        self.waiting = [root]
        while self.waiting:
            node = self.waiting.pop()
            self.statement = self.statement_of(node)
            self.read_statement(node)
        self.roots.sort(key=lambda tree: tree.start)
        return self.roots

    # -- statements

    def read_statement(self, node: Node) -> None:
        """Read what a statement says itself, and put what it holds on the heap of those to be read."""
        kind, field = node.type, node.child_by_field_name
        if kind in _HOLDING:
            self.waiting += [child for child in parts(node) if child.type != "statement_identifier"]
        elif kind == "expression_statement":
            self.stand_alone(node)
        elif kind in ("lexical_declaration", "variable_declaration"):
            self.declare(node)
        elif kind in ("function_declaration", "generator_function_declaration", "method_definition"):
            self.defaults(field("parameters"))
            self.later(field("body"))
        elif kind in _TESTING:
            self.add(Sense.TEST, node, [field("condition")])
            self.later(field("consequence"), field("alternative"), field("body"))
        elif kind == "for_statement":
            self.count(node)
        elif kind == "for_in_statement":
            over = field("operator")
            is_walk = over is not None and over.type == "of"
            self.add(Sense.WALK if is_walk else Sense.OTHER, node, [field("left"), field("right")])
            self.later(field("body"))
        elif kind == "return_statement":
            self.add(Sense.RETURN, node, parts(node))
        else:
            self.read_other(node)

    def read_other(self, node: Node) -> None:
        """What has expressions of its own before or beside the statements that it holds."""
        kind, field = node.type, node.child_by_field_name
        if kind == "class_declaration":
            self.add(Sense.OTHER, node, [c for h in parts(node) if h.type == "class_heritage" for c in parts(h)])
            self.later(field("body"))
        elif kind == "field_definition":
            self.add(Sense.OTHER, node, [field("value")])
        elif kind in ("switch_case", "switch_default"):
            self.add(Sense.OTHER, node, [field("value")])
            self.later(*node.children_by_field_name("body"))
        elif kind == "catch_clause":
            self.later(field("body"))
        elif kind == "try_statement":
            self.later(field("body"), field("handler"), field("finalizer"))
        elif kind == "export_statement":
            self.later(field("declaration"))
            self.add(Sense.OTHER, node, [field("value")])
        elif kind in ("switch_statement", "with_statement", "throw_statement", "class_static_block"):
            self.add(Sense.OTHER, node, [child for child in parts(node) if child.type not in _HOLDING])
            self.later(field("body"))

    def later(self, *nodes: Node | None) -> None:
        self.waiting += [node for node in nodes if node is not None]

    def stand_alone(self, node: Node) -> None:
        for inner in parts(node):
            if inner.type in ("augmented_assignment_expression", "update_expression"):
                self.roots.append(self.update(inner, 0))
            elif inner.type == "assignment_expression":
                self.roots.append(self.assignment(inner))
            else:
                self.add(Sense.ALONE, inner, [inner])

    def declare(self, node: Node) -> None:
        for declarator in (child for child in parts(node) if child.type == "variable_declarator"):
            name, value = declarator.child_by_field_name("name"), declarator.child_by_field_name("value")
            if name is not None and value is not None:
                self.add(Sense.SET, declarator, [name, value])

    def count(self, node: Node) -> None:
        first = node.child_by_field_name("initializer")
        if first is not None and first.type in ("lexical_declaration", "variable_declaration"):
            self.declare(first)
        elif first is not None and first.type != "empty_statement":
            self.add(Sense.ALONE, first, [first])
        condition, step = node.child_by_field_name("condition"), node.child_by_field_name("increment")
        self.add(Sense.TEST, node, [condition if condition is not None and condition.is_named else None])
        self.add(Sense.ALONE, step or node, [step])
        self.later(node.child_by_field_name("body"))

    def defaults(self, parameters: Node | None) -> None:
        """What a routine's parameters are where they are not given."""
        for child in parts(parameters) if parameters is not None and parameters.type == "formal_parameters" else ():
            if child.type == "assignment_pattern":
                self.add(Sense.SET, child, [child.child_by_field_name("left"), child.child_by_field_name("right")])

    # -- expressions

    def build(self, node: Node, depth: int) -> Expression:
        kind = node.type
        if depth > _DEEPEST:
            return self.flat(node)
        if kind in ("parenthesized_expression", "expression_statement"):
            inner = parts(node)
            return self.build(inner[0], depth + 1) if len(inner) == 1 else self.other(node, depth)
        if kind in ("identifier", "this", "shorthand_property_identifier_pattern"):
            return self.name(node, depth)
        if kind == "super":
            return self.made(Sense.BASE, node)
        if kind in ("null", "undefined"):
            return self.made(Sense.NOTHING, node)
        if kind in CONSTANTS:
            return self.made(Sense.CONSTANT, node)
        if kind in _SENSES:
            return self.made(_SENSES[kind], node, [self.build(child, depth + 1) for child in parts(node)])
        builder = self.builders.get(kind)
        return builder(node, depth) if builder is not None else self.other(node, depth)

    def member(self, node: Node, depth: int) -> Expression:
        inner, member = node.child_by_field_name("object"), node.child_by_field_name("property")
        assert inner is not None and member is not None
        if node.child_by_field_name("optional_chain") is not None:
            return self.other(node, depth)
        found = self.made(Sense.MEMBER, node, [self.build(inner, depth + 1)])
        found.name = self.text_of(member).decode()
        return found

    def part(self, node: Node, depth: int) -> Expression:
        inner, index = node.child_by_field_name("object"), node.child_by_field_name("index")
        assert inner is not None and index is not None
        if node.child_by_field_name("optional_chain") is not None:
            return self.other(node, depth)
        found = self.made(Sense.PART, node, [self.build(inner, depth + 1), self.build(index, depth + 1)])
        found.name = plain_key(index, self.text_of(index))
        return found

    def call(self, node: Node, depth: int) -> Expression:
        callee = node.child_by_field_name("function") or node.child_by_field_name("constructor")
        arguments = node.child_by_field_name("arguments")
        assert callee is not None
        found = self.made(Sense.CALL, node, [self.build(callee, depth + 1)])
        is_plain = arguments is not None and arguments.type == "arguments"
        given = parts(arguments) if arguments is not None and is_plain else [arguments] if arguments else []
        names: list[str] = []
        for argument in given:
            built = self.build(argument, depth + 1)
            is_spread = built.sense is Sense.SPREAD
            names.append("*" if is_spread else "")
            found.parts.append(built.parts[0] if is_spread and built.parts else built)
        found.names = tuple(names)
        return found

    def table(self, node: Node, depth: int) -> Expression:
        """An object written out; one with methods, or with what another has, is something else."""
        found = self.made(Sense.TABLE, node)
        names: list[str | None] = []
        for child in parts(node):
            if child.type == "shorthand_property_identifier":
                key = value = child
            elif child.type == "pair":
                found_key, found_value = child.child_by_field_name("key"), child.child_by_field_name("value")
                if found_key is None or found_value is None:
                    return self.other(node, depth)
                key, value = found_key, found_value
            else:
                return self.other(node, depth)
            constant = self.string(key, depth)
            names.append(constant.name)
            shown = self.name(value, depth) if key is value else self.build(value, depth + 1)
            found.parts += [constant if names[-1] is not None else self.build(key, depth + 1), shown]
        found.names = tuple(names)
        return found

    def pattern(self, node: Node, depth: int) -> Expression:
        """Names for what an object has under plain keys; one with what is left, or worked out, is something else."""
        found, names = self.made(Sense.TABLE, node), list[str | None]()
        pairs = pattern_pairs(node)
        if pairs is None:
            return self.other(node, depth)
        for key, value in pairs:
            constant = self.string(key, depth)
            if constant.name is None:
                return self.other(node, depth)
            names.append(constant.name)
            found.parts += [constant, self.build(value, depth + 1)]
        found.names = tuple(names)
        return found

    def choice(self, node: Node, depth: int) -> Expression:
        return self.made(Sense.CHOICE, node, [self.build(child, depth + 1) for child in parts(node)])

    def operation(self, node: Node, depth: int) -> Expression:
        word = node.child_by_field_name("operator")
        operator = word.type if word is not None else ""
        built = [self.build(child, depth + 1) for child in parts(node)]
        if operator in ("&&", "||", "??"):
            sense = Sense.EITHER
        elif operator in _COMPARISONS:
            sense = _COMPARISONS[operator]
        else:
            sense = Sense.SUM if operator == "+" else Sense.OPERATION
        found = self.made(sense, node, built)
        found.name = NEGATED if operator in ("!==", "!=") else None
        found.operator = _OPERATORS.get(operator)
        return found

    def unary(self, node: Node, depth: int) -> Expression:
        word = node.children[0].type
        sense = Sense.NOT if word == "!" else Sense.DELETE if word == "delete" else Sense.OPERATION
        return self.made(sense, node, [self.build(child, depth + 1) for child in parts(node)])

    def update(self, node: Node, depth: int) -> Expression:
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        target = left or node.child_by_field_name("argument")
        assert target is not None
        found = self.made(Sense.UPDATE, node, [self.build(target, depth + 1)])
        word = node.child_by_field_name("operator")
        if right is not None:
            found.parts.append(self.build(right, depth + 1))
        elif word is not None:
            found.parts.append(self.made(Sense.CONSTANT, word))  # the one that `++` adds
        found.operator = _OPERATORS.get(word.type.removesuffix("=")[:1]) if word is not None else None
        return found

    def assignment(self, node: Node) -> Expression:
        targets: list[Expression] = []
        right: Node | None = node
        while right is not None and right.type == "assignment_expression":
            left = right.child_by_field_name("left")
            assert left is not None
            targets.append(self.build(left, 1))
            right = right.child_by_field_name("right")
        assert right is not None
        return self.made(Sense.SET, node, [*targets, self.build(right, 1)])

    def named(self, node: Node, depth: int) -> Expression:
        return self.made(Sense.NAMED, node, [self.build(child, depth + 1) for child in parts(node)])

    def string(self, node: Node, _depth: int) -> Expression:
        """A plain text or a key; without a name where it is not written out."""
        found = self.made(Sense.CONSTANT, node)
        found.name = plain_key(node, self.text_of(node))
        return found

    def text(self, node: Node, depth: int) -> Expression:
        shown = [child for child in node.named_children if child.type == "template_substitution"]
        if not shown:
            return self.made(Sense.CONSTANT, node)
        return self.made(Sense.TEXT, node, [self.build(inner, depth + 1) for each in shown for inner in parts(each)])

    def function(self, node: Node, depth: int) -> Expression:
        """A nameless routine: what it gives back, if it is one expression; the statements of a body stand alone."""
        body = node.child_by_field_name("body")
        assert body is not None
        self.defaults(node.child_by_field_name("parameters"))
        if body.type == "statement_block":
            self.later(body)
            return self.made(Sense.FUNCTION, node, [self.made(Sense.OTHER, body)])
        return self.made(Sense.FUNCTION, node, [self.build(body, depth + 1)])

    def class_value(self, node: Node, depth: int) -> Expression:
        heritage = [child for part in parts(node) if part.type == "class_heritage" for child in parts(part)]
        self.later(node.child_by_field_name("body"))
        return self.made(Sense.OTHER, node, [self.build(child, depth + 1) for child in heritage])
