"""What there is to know of one library."""

from __future__ import annotations

from dataclasses import dataclass, fields

_NONE: frozenset[str] = frozenset()


def words(text: str) -> frozenset[str]:
    """A set of words, written in a row."""
    return frozenset(text.split())


@dataclass(frozen=True)
class KnownLibrary:
    """Names of one library by what they do; paths are given by their ends, as in `event.get`.

    `takes_input` and `draws` are functions by their job in a turn, `main_loops` those that take the program over.
    `reads_lines` ask for typed text, `hears_keys` and `hears_clicks` register handlers, and `click_names` are what
    only programs mention that the mouse drives; `makes_widgets` are what a window is put together of, `titles` give
    it its title; `key_tables` are what has the keys for its members. `quiet`, `concurrent` and `copying` are
    modules: those that never call the program back, those that run routines at the same time as others, and those
    that copy or store objects. `aloof` are methods that call nothing back and change nothing that the program holds;
    those that are `unseen` do so without a trace before others follow, those that are `telling` do nothing but answer.
    `placed` are classes of things that are somewhere, and are moved about.
    """

    takes_input: frozenset[str] = _NONE
    draws: frozenset[str] = _NONE
    main_loops: frozenset[str] = _NONE
    reads_lines: frozenset[str] = _NONE
    hears_keys: frozenset[str] = _NONE
    hears_clicks: frozenset[str] = _NONE
    click_names: frozenset[str] = _NONE
    key_tables: frozenset[str] = _NONE
    makes_widgets: frozenset[str] = _NONE
    titles: frozenset[str] = _NONE
    quiet: frozenset[str] = _NONE
    concurrent: frozenset[str] = _NONE
    copying: frozenset[str] = _NONE
    aloof: frozenset[str] = _NONE
    unseen: frozenset[str] = _NONE
    telling: frozenset[str] = _NONE
    placed: frozenset[str] = _NONE

    def __or__(self, other: KnownLibrary) -> KnownLibrary:
        return KnownLibrary(**{f.name: getattr(self, f.name) | getattr(other, f.name) for f in fields(self)})
