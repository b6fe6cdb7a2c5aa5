"""A frozen digest of everything that is drafted and built: what a change of the house must leave as it is.

`python -m tests.support.net` compares all with `net.json`, and `--freeze` writes it anew, which only a commit does that
means to change what is built. The scripts that others wrote come from this Python and from pygame-ce, so the file says
which versions it was made with.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import random
import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from importlib.metadata import version
from importlib.util import find_spec
from pathlib import Path

import aedifex.demo
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.demo import samples
from aedifex.design.document.writing import write
from aedifex.languages.python import DIALECT
from aedifex.program.reading import read_program
from aedifex.source.errors import AedifexError
from aedifex.source.text import SourceText
from tests.support.carving import moves_at_random, random_carve
from tests.support.parting import as_one_class, random_part
from tests.support.scripts import random_design, write_classes, write_script, write_whole

_SAMPLES = Path(aedifex.demo.__file__).parent
NET = Path(__file__).with_name("net.json")
RANDOM = 70
_WRITERS: dict[str, Callable[[int], str]] = {"script": write_script, "whole": write_whole, "classes": write_classes}


def names() -> list[str]:
    """The programs of the net, by names that `digest` understands."""
    found = [f"sample/{name}" for name in samples() if list((_SAMPLES / name).glob("*.py"))]
    found += [f"{kind}/{seed}" for kind in _WRITERS for seed in range(RANDOM)]
    found += [f"design-{kind}/{seed}" for kind in _WRITERS for seed in range(RANDOM)]
    found += [f"{kind}/{seed}" for kind in ("carved", "parted") for seed in range(RANDOM)]
    return found + [f"field/{path.parent.name}/{path.stem}" for path in _field()]


def _field() -> Iterator[Path]:
    """The scripts that others wrote, which are here."""
    for package, inner in (("turtledemo", ""), ("pygame", "examples")):
        found = find_spec(package)
        if found is not None and found.origin is not None:
            yield from sorted((Path(found.origin).parent / inner).glob("*.py"))


def digest(name: str) -> str:
    """A digest of what comes of one program: its design and all files, or the refusal."""
    kind, _, rest = name.partition("/")
    made = _made(kind, rest)
    return hashlib.sha256(made.encode("utf-8", "surrogateescape")).hexdigest()[:16]


def _made(kind: str, rest: str) -> str:
    if kind == "sample":
        folder = Path(sys.modules["aedifex.demo"].__file__ or "").parent / rest
        return _built(SourceText.read(next(folder.glob("*.py"))))
    if kind == "field":
        return _built(SourceText.read(next(p for p in _field() if f"{p.parent.name}/{p.stem}" == rest)))
    seed = int(rest)
    if kind in ("carved", "parted"):
        return _moved(kind, seed)
    text = _WRITERS[kind.removeprefix("design-")](seed)
    chance = random.Random(seed) if kind.startswith("design-") else None
    return _built(SourceText(Path("script.py"), text.encode()), chance)


def _built(source: SourceText, chance: random.Random | None = None) -> str:
    try:
        program = read_program([source], DIALECT)
        ready = prepared(program)
        design = propose(program) if chance is None else random_design(ready, chance)
        files = new_files(program, build(program, design))
    except AedifexError as error:
        return f"{type(error).__name__}: {error.reason} {error.place.line if error.place else ''} {error.advice}"
    parts = [write(design), *(f"## {path}\n{data.decode('utf-8', 'surrogateescape')}" for path, data in files.items())]
    return "\n".join(parts)


def _moved(kind: str, seed: int) -> str:
    source, chance = SourceText(Path("script.py"), write_script(seed).encode()), random.Random(seed)
    program = read_program([source], DIALECT)
    try:
        if kind == "carved":
            program, *_ = moves_at_random(program, lambda now, number: random_carve(now, chance, number), 3)
        else:
            program = as_one_class(program)
            program, *_ = moves_at_random(program, lambda now, number: random_part(now, chance, number), 4)
    except AedifexError as error:
        return error.reason
    return "\n".join(f"## {path}\n{module.source.data.decode()}" for path, module in program.modules.items())


def versions() -> dict[str, str]:
    """What the scripts of others depend on."""
    return {"python": sys.version.split()[0], "pygame-ce": version("pygame-ce")}


def main() -> None:
    """Compare, or freeze."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--freeze", action="store_true")
    given = parser.parse_args()
    wanted = names()
    with ProcessPoolExecutor() as pool:
        found = dict(zip(wanted, pool.map(digest, wanted, chunksize=8), strict=True))
    if given.freeze:
        NET.write_text(json.dumps({"versions": versions(), "digests": found}, indent=1) + "\n", "utf-8")
        print(f"{len(found)} programs frozen")
        return
    known = json.loads(NET.read_text("utf-8"))
    is_same_field = known["versions"] == versions()
    compared = [name for name in found if is_same_field or not name.startswith("field/")]
    other = [name for name in compared if known["digests"].get(name) != found[name]]
    print(f"{len(compared)} programs compared, {len(other)} built otherwise: {', '.join(other[:20]) or 'none'}")
    sys.exit(1 if other else 0)


if __name__ == "__main__":
    main()
