"""The sorts of random programs there are, and how a program of each ends when it is changed and run."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from tests.support.absences import play_absent, write_absences
from tests.support.answering import outcome_of_server
from tests.support.backward import turned, write_backward
from tests.support.carving import carved
from tests.support.changing_things import write_changing
from tests.support.choosing import write_choices
from tests.support.class_families import write_family
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
from tests.support.javascript_pages import outcome as outcome_of_page
from tests.support.javascript_pages import write_page
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


@dataclass(frozen=True)
class Sort:
    """Programs of one sort: a name for them, and how the one of a seed ends.

    It ends as `same`, `refused: …`, `different: …`, or with another word before a colon that says why it could not be compared.
    """

    name: str
    end_of: Callable[[int], str]


def _javascript(name: str, write: Callable[[int], str], outcome: Callable[[str], str] = outcome_of_javascript) -> Sort:
    """Programs of JavaScript."""
    return Sort(f"javascript, {name}", lambda seed: outcome(write(seed)))


def _drafted(name: str, write: Callable[[int], str], play: Callable[[Path, str], str] | None = None) -> Sort:
    """Scripts that get the design which is proposed for them."""
    return Sort(f"drafted, {name}", lambda seed: outcome(write(seed), play=play))


def _at_random(name: str, write: Callable[[int], str]) -> Sort:
    """Scripts that get a design made at random."""
    return Sort(f"designed at random, {name}", lambda seed: outcome(write(seed), random.Random(seed)))


def _files(name: str, write: Callable[[int], dict[str, str]]) -> Sort:
    """Programs of several files."""
    return Sort(f"drafted, {name}", lambda seed: outcome_of_files(write(seed)))


def _changed(name: str, end_of: Callable[[str, random.Random], str]) -> Sort:
    """Scripts on which one move is made at random."""
    return Sort(name, lambda seed: end_of((write_script if seed % 2 else write_whole)(seed), random.Random(seed)))


def _written(name: str, end_of: Callable[[int], str]) -> Sort:
    """Scripts for one move, which a writer makes by a number."""
    return Sort(name, lambda seed: end_of(random.Random(seed).randrange(10**9)))


def _carved_javascript(text: str) -> str:
    return carved_javascript(text, random.Random(text), 6)


def _parted_javascript(text: str) -> str:
    return parted_javascript(text, random.Random(text))


SORTS = (
    _javascript("scripts", write_javascript),
    _javascript("pages", write_page, outcome_of_page),
    _javascript("sketches", write_sketch, outcome_of_sketch),
    _javascript("sketches with an object", write_record_sketch, outcome_of_sketch),
    _javascript("scripts handed to something", write_handed),
    _javascript("names for functions of others", write_with_named),
    _javascript("objects", write_objects),
    _javascript("objects of two sorts", write_sorts),
    _javascript("scripts that have files", write_javascript, outcome_in_files),
    _javascript("objects that have files", write_objects, outcome_in_files),
    _javascript("classes set up by hand", write_by_hand),
    _javascript("classes inherited by hand", partial(write_by_hand, inherits=True)),
    _javascript("families of classes", partial(write_family, is_python=False)),
    _javascript("objects written out once", write_lone_objects),
    _javascript("objects that are exchanged", partial(write_changing, is_python=False)),
    _javascript("objects that are the state", write_states),
    _javascript("lists side by side", write_javascript_columns),
    _javascript("records in maps and sets", write_maps),
    _javascript("records that are looked for", write_javascript_data),
    _javascript("carved scripts", write_javascript, _carved_javascript),
    _javascript("carved objects", write_objects, _carved_javascript),
    _javascript("parted scripts", write_javascript, _parted_javascript),
    _drafted("plain", write_script),
    _drafted("with things that are exchanged", partial(write_changing, is_python=True)),
    _at_random("plain", write_script),
    _drafted("of one function", write_whole),
    _drafted("with classes", write_classes),
    _at_random("with classes", write_classes),
    _drafted("families of classes", partial(write_family, is_python=True)),
    _drafted("with hazards", write_hazards, play_apart),
    _drafted("with stories", write_story),
    *(_drafted(store, write) for store, write in STORES.items()),
    _drafted("bare objects", write_bare_objects),
    _drafted("with sections", write_sections),
    _drafted("with repeats", write_repeats),
    _drafted("with errands", write_errand),
    _drafted("with single objects", write_single_objects),
    _drafted("set up where made", write_set_ups),
    _drafted("that choose", write_choices),
    _drafted("with declared classes", write_declared),
    _drafted("with files", write_file_notes),
    _drafted("columns that repeat", write_spread_columns),
    _drafted("columns filled in branches", write_fusing),
    _drafted("that do with each the same", write_each_in_turn),
    _drafted("that note functions", write_registry),
    _drafted("with held things", write_held),
    _drafted("that meet", write_meetings),
    _drafted("that may be absent", write_absences, play_absent),
    _drafted("that hand on", write_handing),
    _drafted("whose loops end in a branch", write_endings),
    _drafted("that look something up", write_looking),
    _drafted("with shared data", write_data),
    _drafted("that talk", write_talk, play_typed),
    _files("of several files", write_files),
    _files("that draw", write_drawings),
    _files("that open a database", lambda seed: {"lift.py": write_database(seed)}),
    _files("that hold a connection", lambda seed: {"lift.py": write_connection(seed)}),
    Sort("drafted, of servers", outcome_of_server),
    _drafted("found by name", write_found_by_name, play_by_name),
    _drafted("of routes", write_routes, answers),
    _drafted("that make an application", write_factory, answers),
    Sort("drafted, of routes that answer what is missing", outcome_with_status),
    _changed("carved", carved),
    _changed("carved, guarded", lambda text, chance: carved(write_guards(chance.randrange(10**9)), chance)),
    _changed("parted", parted),
    _written("given elements", lambda number: with_elements(write_numbers(number))),
    _written("turned round", lambda number: turned(write_backward(number))),
    _written("fused", lambda number: fused(write_fusing(number))),
    _written("spared", lambda number: spared(write_sparing(number))),
    _written("narrowed", lambda number: narrowed(write_passing(number, is_python=True), is_python=True)),
    _written(
        "narrowed in javascript", lambda number: narrowed(write_passing(number, is_python=False), is_python=False)
    ),
    _written("named parts", lambda number: with_names(write_askings(number))),
)
