"""A double: stands in for a module that opens a window or a device, and records every call."""

from __future__ import annotations

import types

_QUIET = frozenset({"__path__", "__all__", "__file__", "__wrapped__", "__spec__", "__loader__"})


class Double(types.ModuleType):
    """A module whose every attribute is there and can be called, read, indexed and compared."""

    def __init__(self, name: str, world: object) -> None:
        super().__init__(name)
        self.__dict__["_world"] = world
        self.__path__ = []

    def __getattr__(self, name: str) -> object:
        """Anything asked for is there."""
        if name in _QUIET or (name.startswith("__") and name.endswith("__")):
            raise AttributeError(name)
        found = Thing(f"{self.__name__}.{name}", self.__dict__["_world"])
        setattr(self, name, found)
        return found


class Thing:
    """Something of a double: calling it is recorded and gives another thing."""

    def __init__(self, name: str, world: object) -> None:
        self.__dict__["_name"] = name
        self.__dict__["_world"] = world

    def __call__(self, *args: object, **kwargs: object) -> Thing:
        """Record a call."""
        given = [shown(arg) for arg in args] + [f"{key}={shown(value)}" for key, value in kwargs.items()]
        self._world.trace.add("calls", f"{self._name}({', '.join(given)})")
        return Thing(f"{self._name}()", self._world)

    def __getattr__(self, name: str) -> Thing:
        """A part of it."""
        if name.startswith("__") and name.endswith("__"):
            raise AttributeError(name)
        found = Thing(f"{self._name}.{name}", self._world)
        self.__dict__[name] = found
        return found

    def __setattr__(self, name: str, value: object) -> None:
        """Record a change."""
        self._world.trace.add("calls", f"{self._name}.{name} = {shown(value)}")
        self.__dict__[name] = value

    def __enter__(self) -> Thing:
        """A double can be entered."""
        return self

    def __exit__(self, *error: object) -> None:
        """And left."""

    def __iter__(self) -> object:
        """It has nothing in it."""
        return iter(())

    def __len__(self) -> int:
        """It has nothing in it."""
        return 0

    def __bool__(self) -> bool:
        """It counts as true."""
        return True

    def __getitem__(self, key: object) -> Thing:
        """A part of it."""
        return Thing(f"{self._name}[{shown(key)}]", self._world)

    def __repr__(self) -> str:
        """Its name."""
        return f"<{self._name}>"


def shown(value: object) -> str:
    """A value in words that do not change from run to run: no addresses, functions by their kind."""
    if isinstance(value, str | int | float | bool | bytes | type(None)):
        return repr(value)
    if isinstance(value, list | tuple):
        inner = ", ".join(shown(item) for item in value)
        return f"[{inner}]" if isinstance(value, list) else f"({inner})"
    if isinstance(value, dict):
        return "{" + ", ".join(f"{shown(k)}: {shown(v)}" for k, v in value.items()) + "}"
    if isinstance(value, Thing):
        return repr(value)
    if callable(value):
        return "<function>"
    return f"<{type(value).__name__}>"
