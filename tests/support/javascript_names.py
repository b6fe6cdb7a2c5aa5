"""What names in JavaScript mean, by our reader and by JavaScript's own tools."""

from __future__ import annotations

import json
import re
import subprocess
from collections.abc import Iterator, Sequence
from pathlib import Path

from aedifex.languages.javascript import DIALECT
from aedifex.languages.javascript.library.names import FILE_ITSELF
from aedifex.languages.javascript.reader.scopes import DECLARING, THIS
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText

TOOLS = Path(__file__).with_name("javascript")
_ASKING = 200
_KINDS = {Mode.WRITE: "write", Mode.READ_WRITE: "both"}
_DECLARED_VALUE = re.compile(r"(?:export\s+)?(?:const|let|var)\b")

Meaning = tuple[str, str, int | None]
"""Whether a name is read, written or both, the name, and where it is declared first, in bytes; None for nowhere."""


def has_tools() -> bool:
    """Whether JavaScript's own tools are installed."""
    return (TOOLS / "node_modules").is_dir()


def theirs(paths: Sequence[Path]) -> Iterator[tuple[Path, dict[tuple[int, int], Meaning] | None]]:
    """What the tools say of the names in files; None for a file that they do not read."""
    for begin in range(0, len(paths), _ASKING):
        asked = "".join(f"{path.resolve()}\n" for path in paths[begin : begin + _ASKING])
        command = ["node", "--max-old-space-size=4096", "meanings.mjs"]
        done = subprocess.run(command, input=asked, capture_output=True, text=True, check=True, cwd=TOOLS)
        for line in done.stdout.splitlines():
            answer = json.loads(line)
            found = answer.get("found")
            yield Path(answer["path"]), _merged(((s, e), (k, n, f)) for s, e, k, n, f in found) if found else None


def ours(module: Module) -> dict[tuple[int, int], Meaning]:
    """What our reader says of them."""
    return _merged(
        ((reference.start, reference.end), (_KINDS.get(reference.mode, "read"), reference.name, _declared(reference)))
        for reference in module.references
        if _is_compared(module, reference)
    )


def _declared(reference: Reference) -> int | None:
    return min((other.start for other in reference.symbol.references if other.declares), default=None)


def _is_compared(module: Module, reference: Reference) -> bool:
    """Whether the tools take it for a use of a name: not what only declares one, no member, and not the file itself."""
    if reference.mode is Mode.DECLARE or reference.name in (THIS, FILE_ITSELF):
        return False
    if reference.scope.kind is ScopeKind.CLASS and reference.symbol.scope is reference.scope:
        return False
    if reference.form not in DECLARING:
        return True
    if reference.form is Form.IMPORT:
        return _DECLARED_VALUE.match(module.source.slice(reference.statement.span)) is not None
    routine = reference.statement.routine if reference.statement is not None else None
    is_named = reference.form is Form.ROUTINE and routine is not None and routine.named is reference
    return is_named and _DECLARED_VALUE.match(module.source.slice(reference.statement.span)) is not None


def _merged(found) -> dict[tuple[int, int], Meaning]:
    """One meaning for each place: a name that is read and written there counts as both."""
    merged: dict[tuple[int, int], Meaning] = {}
    for place, meaning in found:
        kinds = {meaning[0], merged.get(place, meaning)[0]}
        merged[place] = ("both" if len(kinds) > 1 else meaning[0], *meaning[1:])
    return merged


def differences(paths: Sequence[Path]) -> Iterator[str]:
    """Where the two do not agree, in files that both read."""
    for path, meant in theirs(paths):
        if meant is None:
            continue
        try:
            module = DIALECT.files.read(SourceText.read(path))
        except UnreadableError:
            continue
        found = ours(module)
        for place in sorted(found.keys() | meant.keys()):
            if found.get(place) != meant.get(place):
                yield f"{path}:{module.source.line_of(place[0])}: {found.get(place)} and {meant.get(place)}"
