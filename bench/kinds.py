"""Are kinds found? Scripts are written from things that are known, stored in each way, with names and without.

Run by `python -m bench.kinds [COUNT]`. Found: one class with all that the things have, of the right store. Partly: a class
with some of it. The reasons of what was not found are the draft's own. Plain scripts ask their things only for what an
object can do, too; in the others some stores are used as only they can be.
"""

from __future__ import annotations

import re
import sys
from collections import Counter
from itertools import product

from tests.support.helpers import program_of
from tests.support.kinds import STORES, keys_of

from aedifex.construction.kinds import find_kinds
from aedifex.construction.prepare import opened

COUNT = 200
_NAMES = re.compile(r"`[^`]*`")


def main() -> None:
    """Print a table, and the commonest reasons."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    print("| store | names | plain | found | partly | wrong | not found |\n|---|---|---|---|---|---|---|")
    reasons: Counter[str] = Counter()
    for store, named, plain in product(STORES, (True, False), (True, False)):
        ends = Counter(_end(store, seed, reasons, named=named, plain=plain) for seed in range(count))
        shown = " | ".join(f"{ends[end] / count:.0%}" for end in ("found", "partly", "wrong", "not found"))
        print(f"| {store} | {_said(named)} | {_said(plain)} | {shown} |", flush=True)
    for reason, number in reasons.most_common(8):
        print(f"{number:5} {reason}")


def _said(truth: bool) -> str:
    return "yes" if truth else "no"


def _end(store: str, seed: int, reasons: Counter[str], *, named: bool, plain: bool) -> str:
    text = STORES[store](seed, named=named, plain=plain)
    wanted = keys_of(store, seed, named=named, plain=plain)
    found = find_kinds(opened(program_of(text)))
    plans = [plan for plan in found.plans if plan.store == store]
    if not plans:
        reasons.update(_NAMES.sub("…", doubt.partition(": ")[2].partition(" (line")[0]) for doubt in found.doubts[:1])
        return "wrong" if found.plans else "not found"
    sizes = [len(plan.fields) for plan in plans]
    return "found" if sizes == [len(wanted)] else "partly"


if __name__ == "__main__":
    main()
