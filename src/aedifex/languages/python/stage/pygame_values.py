"""Texts that make values of pygame anew, as tests write them down."""

from __future__ import annotations

import sys

_RECORDS = ("Rect", "FRect", "Vector2", "Vector3")
_TOLD = ("key", "pos", "button", "rel", "buttons", "unicode", "x", "y", "text")


def text_of(value: object) -> str | None:
    """The text of a rectangle, a vector, an event, or the keys that are held; None for anything else."""
    pygame = sys.modules.get("pygame")
    kind = type(value).__name__
    if pygame is None:
        return None
    if kind in _RECORDS and type(value).__module__.startswith("pygame"):
        return f"pygame.{kind}({', '.join(map(repr, value))})"
    if isinstance(value, pygame.event.EventType):
        return event_text(pygame, value)
    if kind == "Pressed":
        held = [f"{key}: True" for key, code in _keys(pygame).items() if value[code]]
        return f"defaultdict(bool, {{{', '.join(held)}}})"
    return None


def event_text(pygame: object, event: object) -> str:
    """The text of an event: its kind by its name, and what handlers ask for."""
    kinds = {code: f"pygame.{name}" for name, code in vars(pygame).items() if name.isupper() and isinstance(code, int)}
    kinds |= {getattr(pygame, name): f"pygame.{name}" for name in ("QUIT", "KEYDOWN", "KEYUP", "MOUSEBUTTONDOWN")}
    keys = {code: name for name, code in _keys(pygame).items()}
    told = {name: repr(value) for name, value in event.dict.items() if name in _TOLD}
    if "key" in told:
        told["key"] = keys.get(event.key, told["key"])
    given = [kinds.get(event.type, str(event.type)), *(f"{name}={text}" for name, text in told.items())]
    return f"Event({', '.join(given)})"


def _keys(pygame: object) -> dict[str, int]:
    return {f"pygame.{name}": code for name, code in vars(pygame).items() if name.startswith("K_")}
