"""The long comparisons: every file of the standard library and of this environment, and thousands of random scripts.

Run by `make oracle`; ends with 1 if anything differs.
"""

from __future__ import annotations

import ast
import random
import sys
import sysconfig
import tempfile
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

from aedifex.source.errors import UnreadableError
from tests.support.absences import play_absent, write_absences
from tests.support.answering import outcome_of_server
from tests.support.backward import turned, write_backward
from tests.support.carving import carved
from tests.support.choosing import write_choices
from tests.support.class_families import write_family
from tests.support.compiler import disagreements
from tests.support.database_scripts import write_connection, write_database
from tests.support.declared import write_declared
from tests.support.drawings import write_drawings
from tests.support.each_in_turn import write_each_in_turn
from tests.support.endings import write_endings
from tests.support.errands import write_errand
from tests.support.file_notes import write_file_notes
from tests.support.found_by_name import play_by_name, write_found_by_name
from tests.support.fusing import fused, write_fusing
from tests.support.guards import write_guards
from tests.support.handing import write_handing
from tests.support.hazards import play_apart, write_hazards
from tests.support.held_things import write_held
from tests.support.javascript_by_hand import write_by_hand
from tests.support.javascript_columns import write_javascript_columns
from tests.support.javascript_data import write_javascript_data
from tests.support.javascript_given import write_handed, write_with_named
from tests.support.javascript_kinds import write_objects, write_sorts
from tests.support.javascript_lone import write_lone_objects, write_states
from tests.support.javascript_maps import write_maps
from tests.support.javascript_names import differences
from tests.support.javascript_pages import outcome as outcome_of_page
from tests.support.javascript_pages import write_page
from tests.support.javascript_scopes import write_names
from tests.support.javascript_scripts import carved as carved_javascript
from tests.support.javascript_scripts import outcome as outcome_of_javascript
from tests.support.javascript_scripts import outcome_in_files, write_javascript
from tests.support.javascript_scripts import parted as parted_javascript
from tests.support.javascript_sketches import outcome as outcome_of_sketch
from tests.support.javascript_sketches import write_record_sketch, write_sketch
from tests.support.kinds import STORES, write_bare_objects, write_spread_columns
from tests.support.looking import write_looking
from tests.support.meeting import write_meetings
from tests.support.named_parts import with_names, write_askings
from tests.support.narrowing import narrowed, write_passing
from tests.support.npm_files import npm_files
from tests.support.parting import parted
from tests.support.pointing import with_elements, write_numbers
from tests.support.registries import write_registry
from tests.support.repeats import write_repeats
from tests.support.route_files import answers, outcome_with_status, write_factory, write_routes
from tests.support.scripts import outcome, write_classes, write_script, write_whole
from tests.support.sections import write_sections
from tests.support.set_ups import write_set_ups
from tests.support.several_files import outcome_of_files, write_files
from tests.support.shared_data import write_data
from tests.support.single_objects import write_single_objects
from tests.support.sparing import spared, write_sparing
from tests.support.stories import write_story
from tests.support.talks import play_typed, write_talk

SCRIPTS = 2000
FILES = {
    "of several files": write_files,
    "that draw": write_drawings,
    "that open a database": lambda seed: {"lift.py": write_database(seed)},
    "that hold a connection": lambda seed: {"lift.py": write_connection(seed)},
}


def main() -> None:
    library = Path(ast.__file__).parent
    installed = Path(sysconfig.get_path("purelib"))
    bad = compare(library, [p for p in library.rglob("*.py") if "site-packages" not in p.parts])
    bad += compare(installed, list(installed.rglob("*.py")))
    bad += compare_javascript()
    bad += build_javascript("scripts", write_javascript, outcome_of_javascript)
    bad += build_javascript("pages", write_page, outcome_of_page)
    bad += build_javascript("sketches", write_sketch, outcome_of_sketch)
    bad += build_javascript("sketches with an object", write_record_sketch, outcome_of_sketch)
    bad += build_javascript("scripts handed to something", write_handed, outcome_of_javascript)
    bad += build_javascript("names for functions of others", write_with_named, outcome_of_javascript)
    bad += build_javascript("objects", write_objects, outcome_of_javascript)
    bad += build_javascript("objects of two sorts", write_sorts, outcome_of_javascript)
    bad += build_javascript("scripts that have files", write_javascript, outcome_in_files)
    bad += build_javascript("objects that have files", write_objects, outcome_in_files)
    bad += build_javascript("classes set up by hand", write_by_hand, outcome_of_javascript)
    bad += build_javascript("classes inherited by hand", partial(write_by_hand, inherits=True), outcome_of_javascript)
    bad += build_javascript("families of classes", partial(write_family, is_python=False), outcome_of_javascript)
    bad += build_javascript("objects written out once", write_lone_objects, outcome_of_javascript)
    bad += build_javascript("objects that are the state", write_states, outcome_of_javascript)
    bad += build_javascript("lists side by side", write_javascript_columns, outcome_of_javascript)
    bad += build_javascript("records in maps and sets", write_maps, outcome_of_javascript)
    bad += build_javascript("records that are looked for", write_javascript_data, outcome_of_javascript)
    bad += build_javascript("carved scripts", write_javascript, carved_at_random)
    bad += build_javascript("carved objects", write_objects, carved_at_random)
    bad += build_javascript("parted scripts", write_javascript, parted_at_random)
    bad += build("drafted", lambda seed: None)
    bad += build("random", random.Random)
    bad += build("drafted", lambda seed: None, write_whole)
    bad += build("drafted, with classes", lambda seed: None, write_classes)
    bad += build("random, with classes", random.Random, write_classes)
    bad += build("drafted, families of classes", lambda seed: None, partial(write_family, is_python=True))
    bad += build("drafted, with hazards", lambda seed: None, write_hazards, play_apart)
    bad += build("drafted, with stories", lambda seed: None, write_story)
    for store, write in STORES.items():
        bad += build(f"drafted, {store}", lambda seed: None, write)
    bad += build("drafted, bare objects", lambda seed: None, write_bare_objects)
    bad += build("drafted, with sections", lambda seed: None, write_sections)
    bad += build("drafted, with repeats", lambda seed: None, write_repeats)
    bad += build("drafted, with errands", lambda seed: None, write_errand)
    bad += build("drafted, with single objects", lambda seed: None, write_single_objects)
    bad += build("drafted, set up where made", lambda seed: None, write_set_ups)
    bad += build("drafted, that choose", lambda seed: None, write_choices)
    bad += build("drafted, with declared classes", lambda seed: None, write_declared)
    bad += build("drafted, with files", lambda seed: None, write_file_notes)
    bad += build("drafted, columns that repeat", lambda seed: None, write_spread_columns)
    bad += build("drafted, columns filled in branches", lambda seed: None, write_fusing)
    bad += build("drafted, that do with each the same", lambda seed: None, write_each_in_turn)
    bad += build("drafted, that note functions", lambda seed: None, write_registry)
    bad += build("drafted, with held things", lambda seed: None, write_held)
    bad += build("drafted, that meet", lambda seed: None, write_meetings)
    bad += build("drafted, that may be absent", lambda seed: None, write_absences, play_absent)
    bad += build("drafted, that hand on", lambda seed: None, write_handing)
    bad += build("drafted, whose loops end in a branch", lambda seed: None, write_endings)
    bad += build("drafted, that look something up", lambda seed: None, write_looking)
    bad += build("drafted, with shared data", lambda seed: None, write_data)
    bad += build("drafted, that talk", lambda seed: None, write_talk, play_typed)
    for name, write in FILES.items():
        bad += build_files(name, write)
    bad += build_servers()
    bad += build("drafted, found by name", lambda seed: None, write_found_by_name, play_by_name)
    bad += build("drafted, of routes", lambda seed: None, write_routes, answers)
    bad += build("drafted, that make an application", lambda seed: None, write_factory, answers)
    bad += ask_for_status()
    bad += change("carved", carved)
    bad += change("carved, guarded", lambda text, chance: carved(write_guards(chance.randrange(10**9)), chance))
    bad += change("parted", parted)
    bad += change("given elements", lambda text, chance: with_elements(write_numbers(chance.randrange(10**9))))
    bad += change("turned round", lambda text, chance: turned(write_backward(chance.randrange(10**9))))
    bad += change("fused", lambda text, chance: fused(write_fusing(chance.randrange(10**9))))
    bad += change("spared", lambda text, chance: spared(write_sparing(chance.randrange(10**9))))
    bad += change("narrowed", lambda text, chance: narrowed_at_random(chance, is_python=True))
    bad += change("narrowed in javascript", lambda text, chance: narrowed_at_random(chance, is_python=False))
    bad += change("named parts", lambda text, chance: with_names(write_askings(chance.randrange(10**9))))
    sys.exit(1 if bad else 0)


def compare_javascript() -> int:
    """Compare what names in JavaScript mean with what its own tools say, in packages and in random scripts."""
    with npm_files() as paths:
        found = list(differences(paths))
    print(f"javascript: {len(paths)} files, {len(found)} names with another meaning", *found[:20], sep="\n", flush=True)
    with tempfile.TemporaryDirectory() as folder:
        paths = [Path(folder) / f"random{seed}.js" for seed in range(SCRIPTS)]
        for seed, path in enumerate(paths):
            path.write_text(write_names(seed))
        more = list(differences(paths))
    print(f"javascript, random: {len(paths)} files, {len(more)} names with another meaning", *more[:20], sep="\n")
    return len(found) + len(more)


def build_javascript(kind: str, write: Callable[[int], str], outcome: Callable[[str], str]) -> int:
    """Build random programs of JavaScript, and run both."""
    ends = Counter[str]()
    with ProcessPoolExecutor() as pool:
        for end in pool.map(outcome, map(write, range(SCRIPTS))):
            how = end.partition(":")[0]
            ends[how] += 1
            if how == "different":
                print(end, flush=True)
    print(f"drafted, {kind} in javascript: {dict(ends)}", flush=True)
    return ends["different"]


def carved_at_random(text: str) -> str:
    """What comes of carving lines of a script of JavaScript, chosen by its text."""
    return carved_javascript(text, random.Random(text), 6)


def parted_at_random(text: str) -> str:
    """What comes of making classes of members of a script of JavaScript, chosen by its text."""
    return parted_javascript(text, random.Random(text))


def narrowed_at_random(chance: random.Random, *, is_python: bool) -> str:
    """What comes of narrowing the variables of a random script."""
    return narrowed(write_passing(chance.randrange(10**9), is_python=is_python), is_python=is_python)


def build_servers() -> int:
    """Build scripts with a server, and ask both."""
    counts = Counter(outcome_of_server(seed).partition(":")[0] for seed in range(SCRIPTS // 10))
    print(f"drafted, of servers: {dict(counts)}", flush=True)
    return counts["different"]


def ask_for_status() -> int:
    """Build route files that answer what is missing, and ask both."""
    counts = Counter(outcome_with_status(seed).partition(":")[0] for seed in range(SCRIPTS // 5))
    print(f"drafted, of routes that answer what is missing: {dict(counts)}", flush=True)
    return counts["different"]


def compare(root: Path, paths: list[Path]) -> int:
    """Scopes and spans of all files; those that this Python cannot compile are left out."""
    counts: Counter[str] = Counter()
    for path in sorted(paths):
        try:
            found = disagreements(path)
        except (SyntaxError, ValueError, UnicodeError):
            counts["not of this Python"] += 1
        except UnreadableError as error:
            counts["unreadable to us"] += 1
            print(f"  {error}")
        else:
            counts["disagreeing" if found else "agreeing"] += 1
            for line in found[:3]:
                print(f"  {line}")
    print(f"{root.name}: {dict(counts)}", flush=True)
    return counts["disagreeing"]


def change(name: str, end_of: Callable[[str, random.Random], str]) -> int:
    """How a move at random on random scripts ends."""
    ends: Counter[str] = Counter()
    for seed in range(SCRIPTS):
        end = end_of((write_script if seed % 2 else write_whole)(seed), random.Random(seed))
        if end.startswith("different"):
            print(f"seed {seed}: {end}")
        ends[end.partition(":")[0]] += 1
    print(f"{SCRIPTS} scripts, {name} at random: {dict(ends)}", flush=True)
    return ends["different"]


def build(name: str, chance, write=write_script, play=None) -> int:
    """How random scripts end."""
    ends: Counter[str] = Counter()
    for seed in range(SCRIPTS):
        end = outcome(write(seed), chance(seed), play)
        if end.startswith("different"):
            print(f"seed {seed}: {end}")
        ends[end.partition(":")[0]] += 1
    print(f"{SCRIPTS} scripts, {name} designs: {dict(ends)}", flush=True)
    return ends["different"]


def build_files(name: str, write: Callable[[int], dict[str, str]]) -> int:
    """How random programs of several files end."""
    ends: Counter[str] = Counter()
    for seed in range(SCRIPTS):
        end = outcome_of_files(write(seed))
        if end.startswith("different"):
            print(f"seed {seed}: {end}")
        ends[end.partition(":")[0]] += 1
    print(f"{SCRIPTS} programs {name}, drafted designs: {dict(ends)}", flush=True)
    return ends["different"]


if __name__ == "__main__":
    main()
