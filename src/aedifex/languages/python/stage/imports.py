"""Choosing recorders by what the program imports, at the moment when it does."""

from __future__ import annotations

import sys
from importlib.machinery import BuiltinImporter, ModuleSpec, PathFinder


def install(world: object) -> None:
    """Watch the imports of the program."""
    from _aedifex_stage import abroad, chance, clock, web

    finder = Finder()
    finder.after["numpy"] = lambda module: chance.seed_numpy(world.plan.seed)
    finder.after["random"] = lambda module: chance.seed_random(module, world.plan.seed)
    finder.after["datetime"] = clock.script_dates
    for name in clock.WAITING:
        finder.after[name] = clock.keep_real
    finder.after["asyncio"] = lambda module: clock.hurry_event_loop(module, world)
    finder.after["select"] = lambda module: clock.hurry_select(module, world)
    finder.after["webbrowser"] = lambda module: abroad.show_page(module, world)
    finder.after["tempfile"] = lambda module: chance.name_temporary_files(module, world.plan.seed)
    finder.after["logging"] = clock.begin_log
    finder.after["pygame"] = lambda module: _pygame(module, world)
    finder.after["turtle"] = lambda module: _turtle(module, world)
    web.install(finder, world)
    finder.instead["curses"] = lambda name: _curses(name, world)
    finder.instead["tkinter"] = lambda name: _tkinter(name, world)
    for name in world.plan.stand_ins:
        finder.instead[name] = lambda name: _double(name, world)
    for name in [*finder.after]:
        if name in sys.modules:
            finder.after.pop(name)(sys.modules[name])
    sys.meta_path.insert(0, finder)


def _pygame(module: object, world: object) -> None:
    from _aedifex_stage import pygame_recorder

    pygame_recorder.install(module, world)


def _turtle(module: object, world: object) -> None:
    from _aedifex_stage import turtle_pace

    turtle_pace.install(module, world)


def _tkinter(name: str, world: object) -> object:
    from _aedifex_stage import tk_modules

    return tk_modules.make(name, world)


def _curses(name: str, world: object) -> object:
    from _aedifex_stage import terminal

    return terminal.make(name, world)


def _double(name: str, world: object) -> object:
    from _aedifex_stage import double

    return double.Double(name, world)


class Finder:
    """Puts stand-ins in place of modules, and changes others right after they are loaded.

    `instead` makes the module for a name or for anything below it; `after` is called with a real module.
    """

    def __init__(self) -> None:
        self.instead: dict[str, object] = {}
        self.after: dict[str, object] = {}

    def find_spec(self, name: str, path: object, target: object = None) -> object:
        """Take over the names that are ours."""
        root = name.partition(".")[0]
        if root in self.instead:
            return ModuleSpec(name, self, is_package=True)
        if name in self.after:
            change = self.after.pop(name)
            spec = PathFinder.find_spec(name, path) or BuiltinImporter.find_spec(name)
            if spec is not None and spec.loader is not None:
                spec.loader = _Changing(spec.loader, change)
            return spec
        return None

    def create_module(self, spec: object) -> object:
        """Make the stand-in."""
        return self.instead[spec.name.partition(".")[0]](spec.name)

    def exec_module(self, module: object) -> None:
        """A stand-in is complete as it is made."""


class _Changing:
    """Loads a module as its own loader does, then changes it."""

    def __init__(self, loader: object, change: object) -> None:
        self.loader = loader
        self.change = change

    def create_module(self, spec: object) -> object:
        return self.loader.create_module(spec)

    def exec_module(self, module: object) -> None:
        self.loader.exec_module(module)
        self.change(module)

    def __getattr__(self, name: str) -> object:
        return getattr(self.loader, name)
