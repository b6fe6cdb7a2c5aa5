"""How many small mistakes `verify` sees, in scripts that nobody here wrote.

Run `python -m bench.mutants SCRIPT or FOLDER… [--count 10] [--budget 5] [--built]`. Scenarios are made for each script; it is
compared with itself, then with mutants whose changed line ran. With `--built` it is compared with what is built of it, and
the mistakes are put in there. Those that were not told apart are listed.
"""

from __future__ import annotations

import argparse
import shutil
import tempfile
from pathlib import Path

from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages import dialect_for
from aedifex.program.reading import read_program
from aedifex.source.errors import AedifexError
from aedifex.source.files import write_folder
from aedifex.source.text import SourceText
from aedifex.verify.compare import Comparison
from aedifex.verify.running.run import Limits
from aedifex.verify.scenarios.search import Search

_SUFFIXES = frozenset({".py", ".js", ".mjs", ".cjs", ".html"})


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("paths", nargs="*", type=Path)
    parser.add_argument("--count", type=int, default=10)
    parser.add_argument("--budget", type=float, default=5.0)
    parser.add_argument("--built", action="store_true")
    given = parser.parse_args()
    scripts = [path for path in given.paths if path.is_file()]
    folders = [path for path in given.paths if path.is_dir()]
    scripts += [p for folder in folders for p in sorted(folder.iterdir()) if p.suffix in _SUFFIXES and p.name[0] != "_"]
    told = ran = 0
    shares: list[float] = []
    for script in scripts:
        try:
            found, seen, missed, share = (measure_built if given.built else measure)(script, given.count, given.budget)
        except AedifexError as error:
            print(f"{script.stem:<22} not run: {error.reason}", flush=True)
            continue
        told, ran = told + seen, ran + found
        shares.append(share)
        print(f"{script.stem:<22} lines {share:4.0%}   told apart {seen} of {found}", flush=True)
        for line in missed:
            print(f"    not told apart: {line}", flush=True)
    if ran:
        print(
            f"told apart {told} of {ran} ({told / ran:.1%}); lines reached on average {sum(shares) / len(shares):.0%}"
        )


def measure(script: Path, count: int, budget: float) -> tuple[int, int, list[str], float]:
    """Mutants that ran, those told apart, the others in words, and the share of lines reached."""
    with tempfile.TemporaryDirectory() as work:
        dialect = dialect_for(script)
        target = shutil.copytree(script.parent, Path(work) / "mutant", symlinks=True) / script.name
        comparison = Comparison(script, target, dialect.runner, Limits(seconds=40))
        inputs = dialect.library.inputs_of(dialect.files.read(SourceText.read(script)))
        search = Search(comparison, inputs)
        scenarios = search.find(budget)
        verdict = comparison.compare(scenarios)
        if not verdict.same:
            return 0, 0, [f"DIFFERENT FROM ITSELF {verdict.divergence}"], search.share
        lines = verdict.lines.get(script.name)
        missed, seen = [], 0
        ran = lines.ran if lines else None
        made = dialect.testing.mutants(script.read_text(), count, 1, ran, has_routes=bool(inputs.requests))
        for mutant in made:
            target.write_text(mutant.text)
            if comparison.compare(scenarios).same:
                missed.append(f"line {mutant.line}, {mutant.what}: {mutant.text.splitlines()[mutant.line - 1].strip()}")
            else:
                seen += 1
        return len(made), seen, missed, search.share


def measure_built(script: Path, count: int, budget: float) -> tuple[int, int, list[str], float]:
    """The same for mistakes in the program that is built of a script, spread over its files."""
    dialect = dialect_for(script)
    program = read_program([SourceText.read(script)], dialect)
    design = propose(program)
    with tempfile.TemporaryDirectory() as work:
        folder = shutil.copytree(script.parent, Path(work) / "built", symlinks=True)
        (folder / script.name).unlink()
        write_folder(folder, new_files(program, build(program, design)), script)
        comparison = Comparison(script, folder / script.name, dialect.runner, Limits(seconds=40))
        search = Search(comparison, dialect.library.inputs_of(program.main))
        scenarios = search.find(budget)
        if not comparison.compare(scenarios).same:
            return 0, 0, ["DIFFERENT AS BUILT"], search.share
        itself = Comparison(folder / script.name, folder / script.name, dialect.runner, Limits(seconds=40))
        ran = itself.compare(scenarios).lines
        found, seen, missed = 0, 0, []
        for name, lines in sorted(ran.items()):
            path = folder / name
            text = path.read_text()
            share = max(1, round(count * len(lines.ran) / sum(len(each.ran) for each in ran.values())))
            for mutant in dialect.testing.mutants(text, share, 1, lines.ran):
                path.write_text(mutant.text)
                found += 1
                if comparison.compare(scenarios).same:
                    changed = mutant.text.splitlines()[mutant.line - 1].strip()
                    missed.append(f"{name}, line {mutant.line}, {mutant.what}: {changed}")
                else:
                    seen += 1
            path.write_text(text)
    return found, seen, missed, search.share


if __name__ == "__main__":
    main()
