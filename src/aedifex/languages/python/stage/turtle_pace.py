"""How fast and how a turtle sketch is shown: what its drawing alone does not tell."""

from __future__ import annotations

import functools

_CALLS = {"TPen": ("speed", "resizemode"), "TurtleScreen": ("tracer", "delay")}


def install(turtle: object, world: object) -> None:
    """Write down each call that sets the pace."""
    for kind, names in _CALLS.items():
        for name in names:
            watch(getattr(turtle, kind), name, world)


def watch(kind: type, name: str, world: object) -> None:
    """Wrap one method, which is only a question when it is called without arguments."""
    real = getattr(kind, name)

    @functools.wraps(real)
    def told(self: object, *given: object, **named: object) -> object:
        if given or named:
            shown = [repr(value) for value in given] + [f"{key}={value!r}" for key, value in named.items()]
            world.trace.add("calls", f"{name}({', '.join(shown)})")
        return real(self, *given, **named)

    setattr(kind, name, told)
