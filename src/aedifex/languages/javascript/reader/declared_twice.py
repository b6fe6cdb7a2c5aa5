"""Names declared twice where JavaScript allows one: the grammar takes them, an engine does not load the file."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from tree_sitter import Node

from aedifex.languages.tree.grammar import below, parts, text_of

_BLOCKS = frozenset({"program", "statement_block", "switch_body"})
_FUNCTIONS = frozenset(
    """
arrow_function function_declaration function_expression generator_function generator_function_declaration
method_definition
""".split()
)
_DECLARED_FUNCTIONS = frozenset({"function_declaration", "generator_function_declaration"})
_LOOPS = frozenset({"for_statement", "for_in_statement"})
_NAMES = frozenset({"identifier", "shorthand_property_identifier_pattern"})


def first_declared_twice(root: Node) -> Node | None:
    """The first name that is declared for its block, by `let`, `const`, `class` or there a function, and not alone."""
    found: list[Node] = []
    for node in below(root):
        if node.type in _BLOCKS:
            found += _twice(node)
        elif node.type in _LOOPS:
            found += _twice_in_head(node)
    return min(found, key=lambda node: node.start_byte, default=None)


def _twice(block: Node) -> Iterator[Node]:
    """The names of a block that are declared in it for a second time."""
    is_outermost = block.type == "program" or (block.parent is not None and block.parent.type in _FUNCTIONS)
    functions = [name for s in _statements(block) if (name := _function_name(s)) is not None]
    lexical = [name for statement in _statements(block) for name in _declared(statement)]
    others = {*_given(block), *map(text_of, _hoisted(block))}
    if is_outermost:
        others |= set(map(text_of, functions))
    else:
        taken = others | set(map(text_of, lexical))
        yield from (name for name in functions if text_of(name) in taken)
    yield from _repeated(lexical, others)


def _twice_in_head(loop: Node) -> Iterator[Node]:
    """What the head of a loop declares for the loop only, and `var` in it again for all around."""
    head = loop.child_by_field_name("initializer") if loop.type == "for_statement" else None
    if head is not None and head.type == "lexical_declaration":
        own = list(_declarators(head))
    elif text_of(loop.child_by_field_name("kind")) in ("let", "const"):
        left = loop.child_by_field_name("left")
        own = list(_bound(left)) if left is not None else []
    else:
        return
    body = loop.child_by_field_name("body")
    yield from _repeated(own, set(map(text_of, _hoisted(body))) if body is not None else set())


def _repeated(names: Sequence[Node], known: set[str]) -> Iterator[Node]:
    """Those of some names that are known, or have come before."""
    for name in names:
        if text_of(name) in known:
            yield name
        known.add(text_of(name))


def _function_name(statement: Node) -> Node | None:
    return statement.child_by_field_name("name") if statement.type in _DECLARED_FUNCTIONS else None


def _statements(block: Node) -> Iterator[Node]:
    for child in parts(block):
        if child.type in ("switch_case", "switch_default", "export_statement"):
            yield from parts(child)
        else:
            yield child


def _declared(statement: Node) -> Iterator[Node]:
    """What a statement declares for its block only."""
    if statement.type == "class_declaration" and (name := statement.child_by_field_name("name")) is not None:
        yield name
    elif statement.type == "lexical_declaration":
        yield from _declarators(statement)


def _declarators(statement: Node) -> Iterator[Node]:
    for declarator in parts(statement):
        if (pattern := declarator.child_by_field_name("name")) is not None:
            yield from _bound(pattern)


def _bound(pattern: Node) -> Iterator[Node]:
    """The names that a pattern binds; defaults and keys are no such."""
    if pattern.type in _NAMES:
        yield pattern
    elif pattern.type in ("assignment_pattern", "object_assignment_pattern"):
        left = pattern.child_by_field_name("left")
        yield from _bound(left) if left is not None else ()
    elif pattern.type == "pair_pattern":
        value = pattern.child_by_field_name("value")
        yield from _bound(value) if value is not None else ()
    elif pattern.type in ("object_pattern", "array_pattern", "rest_pattern"):
        for child in parts(pattern):
            yield from _bound(child)


def _given(body: Node) -> Iterator[str]:
    """The names of the parameters of the function whose body a block is, or of what a `catch` has caught."""
    function = body.parent
    if function is not None and function.type == "catch_clause":
        caught = function.child_by_field_name("parameter")
        yield from map(text_of, _bound(caught)) if caught is not None else ()
    if function is None or function.type not in _FUNCTIONS:
        return
    found = function.child_by_field_name("parameters") or function.child_by_field_name("parameter")
    for parameter in [] if found is None else parts(found) if found.type == "formal_parameters" else [found]:
        yield from map(text_of, _bound(parameter))


def _hoisted(block: Node) -> Iterator[Node]:
    """The names that `var` declares in a block or further in, up to the next function."""
    waiting = list(parts(block))
    while waiting:
        node = waiting.pop()
        if node.type in _FUNCTIONS or node.type == "class_body":
            continue
        if node.type == "variable_declaration":
            yield from _declarators(node)
        elif node.type == "for_in_statement" and text_of(node.child_by_field_name("kind")) == "var":
            left = node.child_by_field_name("left")
            yield from _bound(left) if left is not None else ()
        waiting.extend(parts(node))
