"""Run `python -m bench.recovery`: flatten, draft, compare. Half of the programs are set aside and reported apart."""

from __future__ import annotations

import ast
import sys
import zlib
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from aedifex.construction.prepare import prepared
from aedifex.design.drafting.draft import draft
from aedifex.languages.python import DIALECT
from aedifex.program.reading import read_program
from aedifex.program.structure.main_code import MainCode
from aedifex.source.text import SourceText
from bench.recovery.agreement import adjusted_rand, mojo_fm
from bench.recovery.flatten import FEWEST, Flat, flatten

PROGRAMS = (
    "ast bdb calendar cmd code codeop configparser csv difflib fileinput ftplib gettext imaplib mailbox nntplib "
    "optparse pdb pickle pickletools plistlib poplib profile pstats pydoc sched shlex smtplib socketserver ssl "
    "statistics string subprocess symtable tarfile telnetlib tempfile textwrap threading tokenize trace traceback "
    "turtle wave xdrlib zipfile asyncio/locks asyncio/streams asyncio/queues email/feedparser email/generator "
    "http/client http/cookiejar http/cookies idlelib/autocomplete_w idlelib/config idlelib/debugger idlelib/editor "
    "idlelib/pyparse idlelib/pyshell idlelib/query idlelib/run idlelib/search idlelib/sidebar idlelib/undo "
    "idlelib/searchengine idlelib/tooltip lib2to3/refactor lib2to3/pgen2/parse lib2to3/pgen2/pgen "
    "logging/handlers logging/config multiprocessing/managers multiprocessing/pool multiprocessing/queues "
    "multiprocessing/shared_memory unittest/case unittest/loader unittest/mock unittest/runner urllib/request "
    "wsgiref/handlers wsgiref/simple_server xml/dom/expatbuilder xml/dom/pulldom xml/sax/expatreader xml/sax/saxutils "
    "xmlrpc/client xmlrpc/server"
).split()


def main() -> None:
    sets: dict[str, list[tuple[str, float, float, float]]] = {"tuned on": [], "set aside": []}
    inlined: dict[str, float] = {}
    for name, text in _texts():
        row = measure(name, text)
        if row is not None:
            sets["tuned on" if zlib.crc32(name.encode()) % 2 else "set aside"].append(row)
        hard = flatten(name, text, inlined=True)
        found = agreement(hard) if row is not None and hard is not None else None
        if found is not None:
            inlined[name] = found[0]
    for title, rows in sets.items():
        print(f"{title}: {len(rows)} programs")
        if "-v" in sys.argv:
            for name, ari, mojo, blind in sorted(rows, key=lambda row: row[1]):
                print(f"  {name:<24} ARI {ari:5.2f}   MoJoFM {mojo:5.2f}   ARI without names {blind:5.2f}")
        for label, column in (("ARI with names", 1), ("MoJoFM with names", 2), ("ARI without names", 3)):
            values = [row[column] for row in rows]
            print(f"  {label:<18} mean {sum(values) / len(values):.2f}, worst {min(values):.2f}")
    values = sorted(inlined.values())
    print(f"all in one main, methods inlined: {len(values)} programs")
    if "-v" in sys.argv:
        print(
            "".join(f"  {name:<24} ARI {ari:5.2f}\n" for name, ari in sorted(inlined.items(), key=lambda row: row[1])),
            end="",
        )
    print(f"  ARI with names     mean {sum(values) / len(values):.2f}, worst {values[0]:.2f}")


def _texts() -> Iterator[tuple[str, str]]:
    library = Path(ast.__file__).parent
    for name in PROGRAMS:
        path = library / f"{name}.py"
        if path.exists():
            yield name, path.read_text("utf-8")


def measure(name: str, text: str) -> tuple[str, float, float, float] | None:
    """Agreement with names, both measures, and without."""
    plain, blind = flatten(name, text), flatten(name, text, meaningless=True)
    if plain is None or blind is None:
        return None
    named, nameless = agreement(plain), agreement(blind)
    return (name, *named, nameless[0]) if named is not None and nameless is not None else None


def agreement(flat: Flat) -> tuple[float, float] | None:
    """The adjusted Rand index over variables, MoJoFM over variables and functions.

    What never changes in the flat script is a constant there and belongs to nobody. None where text is run as code, or
    less than two classes with state are left.
    """
    program = prepared(read_program([SourceText(Path("flat_script.py"), flat.text.encode())], DIALECT))
    changing = {symbol.name for symbol in MainCode.of(program.main).fields}
    flat.variables = {name: home for name, home in flat.variables.items() if name in changing}
    sizes = Counter(flat.variables.values())
    if program.main.hindrances or sum(size > 1 for size in sizes.values()) < FEWEST:
        return None
    found: dict[str, str] = {}
    design = draft(program)
    for plan in design.classes:
        found |= {f.variable: plan.name for f in plan.fields} | {m.routine: plan.name for m in plan.methods}
    wanted = flat.variables | flat.functions
    groups = {thing: found.get(thing, "the owner") for thing in wanted}
    variables = {thing: groups[thing] for thing in flat.variables}
    return adjusted_rand(variables, flat.variables), mojo_fm(groups, wanted)


if __name__ == "__main__":
    main()
