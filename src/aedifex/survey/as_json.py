"""The survey as JSON, format 1."""

from __future__ import annotations

import json
from collections.abc import Sequence

from aedifex.survey.facts import ModuleFacts

FORMAT = 1


def as_json(facts: Sequence[ModuleFacts]) -> str:
    """The facts as a JSON text with a final newline."""
    document = {"format": FORMAT, "modules": [_module(module) for module in facts]}
    return json.dumps(document, indent=2, ensure_ascii=False) + "\n"


def _module(facts: ModuleFacts) -> dict[str, object]:
    return {
        "path": str(facts.path),
        "language": facts.language,
        "lines": facts.lines,
        "main_lines": facts.main_lines,
        "state": [
            {
                "name": fact.name,
                "line": fact.line,
                "constant": fact.constant,
                "reads": list(fact.reads),
                "writes": list(fact.writes),
                "rebinds": list(fact.rebinds),
                "elsewhere": fact.elsewhere or None,
            }
            for fact in facts.state
        ],
        "routines": [
            {
                "name": routine.name,
                "line": routine.line,
                "end_line": routine.end_line,
                "parameters": list(routine.parameters),
                "calls": list(routine.calls),
                "state_reads": list(routine.state_reads),
                "state_writes": list(routine.state_writes),
            }
            for routine in facts.routines
        ],
        "classes": list(facts.classes),
        "kinds": [
            {
                "store": kind.store,
                "line": kind.line,
                "shape": list(kind.shape),
                "known_by": list(kind.known_by),
                "count": kind.count,
                "hindrance": kind.hindrance or None,
                "hindrance_line": kind.hindrance_line,
            }
            for kind in facts.kinds
        ],
        "measures": {
            "tight_class_cohesion": _rounded(facts.measures.tight),
            "lack_of_cohesion": _rounded(facts.measures.lack),
            "cyclomatic_complexity": facts.measures.complexity,
            "longest_routine": facts.measures.longest,
            "main_lines": facts.measures.main_lines,
            "writable_variables": facts.measures.variables,
        },
        "hindrances": [
            {
                "line": hindrance.line,
                "reason": hindrance.reason,
                "touches": sorted(hindrance.touches) if hindrance.touches is not None else None,
            }
            for hindrance in facts.hindrances
        ],
    }


def _rounded(share: float | None) -> float | None:
    return round(share, 3) if share is not None else None
