"""What `verify` shows."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from aedifex.report.layout import counted, table
from aedifex.verify.compare import Divergence, Verdict
from aedifex.verify.running.lines import in_ranges
from aedifex.verify.running.trace import Entry
from aedifex.verify.scenarios.scenario import write

_NOTHING = "nothing more"
_MOST_SHOWN = 3


def verdict_parts(verdict: Verdict, before: Path, after: Path) -> Iterator[RenderableType]:
    """The answer in one line, how much was seen, and the first divergence side by side."""
    divergence = verdict.divergence
    if divergence is None:
        runs = counted(len(verdict.scenarios), "scenario")
        entries = counted(verdict.entries, "trace entry", "trace entries")
        yield Text.assemble(("Same", "bold"), f"{_but(verdict)}: {runs}, {entries} compared.")
    else:
        equal = counted(divergence.index, "equal entry", "equal entries")
        where = f": in scenario {divergence.scenario.name}, after {equal}."
        yield Text.assemble(("Different", "bold"), f"{_but(verdict)}{where}")
        yield _side_by_side(divergence, before, after)
        yield Text("The shortest scenario found that still shows it:", style="bold")
        yield Text(_indented(write(divergence.scenario)))
    if verdict.meant:
        told = f"{counted(verdict.meant, 'request')} for what is not there failed before, and "
        yield Text(f"{told}{'is' if verdict.meant == 1 else 'are'} answered with 404 now: the design asks for that.")
    yield from _lines(verdict)
    yield from _endings(verdict)
    if verdict.unstable:
        yield Text("Not stable, so not compared: two runs of the first program differ in", style="bold")
        for entry in verdict.unstable[:_MOST_SHOWN]:
            yield Text(f"  {entry}")


def _but(verdict: Verdict) -> str:
    """What a reader must know together with the answer."""
    return f", but {'; '.join(verdict.warnings)}" if verdict.warnings else ""


def _indented(text: str) -> str:
    return "".join(f"  {line}\n" for line in text.splitlines()).rstrip("\n")


def _lines(verdict: Verdict) -> Iterator[Text]:
    for name, lines in sorted(verdict.lines.items()):
        text = f"{lines.share:.0%} of the lines of {name} ran"
        if lines.missing:
            text += f"; never line {in_ranges(lines.missing)}"
        yield Text(text + ".")


def _endings(verdict: Verdict) -> Iterator[Text]:
    """How the runs ended, the usual way first."""
    ways = Counter(map(str, verdict.endings))
    if ways:
        told = "; ".join(
            f"{counted(number, 'run')} with {way}" if len(ways) > 1 else way for way, number in ways.items()
        )
        yield Text(f"Ended with {told}." if len(ways) == 1 else f"Ended: {told}.")


def _side_by_side(divergence: Divergence, before: Path, after: Path) -> Table:
    found = table("", f"before: {before.name}", f"after: {after.name}", shares=(None, 1, 1))
    for entry in divergence.leading:
        found.add_row("=", Text(str(entry), style="dim"), Text(str(entry), style="dim"))
    found.add_row("!", _told(divergence.before), _told(divergence.after))
    return found


def _told(entry: Entry | None) -> Text:
    if entry is None:
        return Text(_NOTHING, style="bold")
    text = Text(str(entry), style="bold")
    return text.append(f"\n({entry.where})", style="not bold") if entry.where else text


def verdict_json(verdict: Verdict) -> str:
    """The verdict as JSON, format 1."""
    divergence = verdict.divergence
    document = {
        "format": 1,
        "same": verdict.same,
        "scenarios": [scenario.name for scenario in verdict.scenarios],
        "turns": sum(scenario.turns for scenario in verdict.scenarios),
        "entries": verdict.entries,
        "warnings": verdict.warnings,
        "share": round(verdict.share, 4),
        "endings": [str(ending) for ending in verdict.endings],
        "walls": verdict.walls.value,
        "meant": verdict.meant,
        "lines": {
            name: {"share": round(lines.share, 4), "missing": sorted(lines.missing)}
            for name, lines in sorted(verdict.lines.items())
        },
        "unstable": [str(entry) for entry in verdict.unstable],
        "divergence": None
        if divergence is None
        else {
            "scenario": write(divergence.scenario),
            "index": divergence.index,
            "leading": [str(entry) for entry in divergence.leading],
            "before": _entry(divergence.before),
            "after": _entry(divergence.after),
        },
    }
    return json.dumps(document, indent=2, ensure_ascii=False) + "\n"


def _entry(entry: Entry | None) -> dict[str, str] | None:
    return None if entry is None else {"kind": entry.kind, "text": str(entry), "where": entry.where}
