"""Scripts with declared types: any script written at random, with hints on its parameters, results and variables."""

from __future__ import annotations

import ast
import random

_HINTS = (
    "int",
    "dict",
    "list",
    "Dict[str, Any]",
    "Optional[dict]",
    "dict | None",
    "'dict'",
    "Any",
    "list[dict]",
    "List[List[Any]]",
    "dict[str, List[int]]",
    "'Optional[list]'",
    "tuple[int, ...]",
)


class _Hints(ast.NodeTransformer):
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.depth = 0

    def hint(self) -> ast.expr | None:
        if self.chance.random() < 0.2:
            return None
        return ast.parse(self.chance.choice(_HINTS), mode="eval").body

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        self.depth += 1
        self.generic_visit(node)
        self.depth -= 1
        for argument in node.args.args:
            if argument.arg != "self":
                argument.annotation = self.hint()
        node.returns = self.hint()
        return node

    def visit_Assign(self, node: ast.Assign) -> ast.AST:
        target, hint = node.targets[0], self.hint()
        if self.depth or len(node.targets) > 1 or not isinstance(target, ast.Name) or hint is None:
            return node
        return ast.AnnAssign(target, hint, node.value, simple=1)


def with_hints(text: str, seed: int) -> str:
    """A script with types declared here and there, mostly wrong ones: nothing looks at them."""
    chance = random.Random(f"hints {seed}")
    tree = ast.fix_missing_locations(_Hints(chance).visit(ast.parse(text)))
    heads = ["from typing import Any, Dict, List, Optional"]
    if chance.random() < 0.3:
        heads.insert(0, "from __future__ import annotations")
    return "\n".join([*heads, ast.unparse(tree), ""])
