"""What a run is told, as `verify` writes it down."""

from __future__ import annotations

import json
from typing import NamedTuple


class Plan(NamedTuple):
    """The fields of the run plan; `events` are tables with a turn and what happens in it."""

    script: str
    folder: str
    seed: int
    arguments: list[str]
    lines: list[str]
    turns: int
    events: list[dict]
    stand_ins: list[str]
    trace: str
    lines_file: str
    calls_file: str
    classes: list[str]
    memory: int
    file: int
    seconds: int
    entries: int


def read_plan(path: str) -> Plan:
    """The plan in a file."""
    with open(path, encoding="utf-8") as file:
        return Plan(**json.load(file))
