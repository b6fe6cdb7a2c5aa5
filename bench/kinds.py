"""Are kinds found? Scripts are written from things that are known, stored in each way, with names and without.

Run by `python -m bench.kinds [COUNT]`. Found: one class with all that the things have, of the right store. Partly: a class
with some of it. The reasons of what was not found are the draft's own; some stores are used as only they can be.
"""

from __future__ import annotations

import re
import sys
from collections import Counter

from tests.support.helpers import program_of
from tests.support.kinds import STORES, keys_of

from aedifex.construction.kinds import find_kinds
from aedifex.construction.prepare import opened

COUNT = 200
_NAMES = re.compile(r"`[^`]*`")


def main() -> None:
    """Print a table, and the commonest reasons."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    print("| store | names | found | partly | wrong | not found |\n|---|---|---|---|---|---|")
    reasons: Counter[str] = Counter()
    for store in STORES:
        for named in (True, False):
            ends = Counter(_end(store, seed, named, reasons) for seed in range(count))
            shown = " | ".join(f"{ends[end] / count:.0%}" for end in ("found", "partly", "wrong", "not found"))
            print(f"| {store} | {'yes' if named else 'no'} | {shown} |", flush=True)
    for reason, number in reasons.most_common(8):
        print(f"{number:5} {reason}")


def _end(store: str, seed: int, named: bool, reasons: Counter[str]) -> str:
    text, wanted = STORES[store](seed, named=named), keys_of(seed, named=named)
    found = find_kinds(opened(program_of(text)))
    plans = [plan for plan in found.plans if plan.store == store]
    if not plans:
        reasons.update(_NAMES.sub("…", doubt.partition(": ")[2].partition(" (line")[0]) for doubt in found.doubts[:1])
        return "wrong" if found.plans else "not found"
    sizes = [len(plan.fields) for plan in plans]
    return "found" if sizes == [len(wanted)] else "partly"


if __name__ == "__main__":
    main()
