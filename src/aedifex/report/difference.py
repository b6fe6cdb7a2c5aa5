"""The difference between a program before and after, as text."""

from __future__ import annotations

import difflib

from aedifex.program.model.program import Program


def difference(before: Program, after: Program) -> str:
    """A unified difference of all files, the new ones against nothing."""
    lines: list[str] = []
    made = {path: module.source.data for path, module in after.modules.items()}
    for path, data in (made | dict(after.beside)).items():
        old = before.modules.get(path)
        old_text = old.source.data.decode("utf-8") if old is not None else ""
        lines += difflib.unified_diff(
            old_text.splitlines(keepends=True),
            data.decode("utf-8").splitlines(keepends=True),
            f"before/{path.name}" if old is not None else "(not there)",
            f"after/{path.name}",
        )
    return "".join(line if line.endswith("\n") else line + "\n" for line in lines)
