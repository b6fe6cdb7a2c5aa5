"""What the functions of `random` can draw from without ever failing."""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping, Sequence


def surely_draws(function: str, arguments: Sequence[str]) -> bool:
    """Whether a function of `random`, given arguments that are written so, draws something and cannot fail."""
    can_draw = _CAN_DRAW.get(function)
    try:
        return can_draw is not None and can_draw(*map(ast.literal_eval, arguments))
    except (ValueError, SyntaxError, TypeError):
        return False  # what is computed, unpacked, or of another number


def _has_whole(low: object, high: object) -> bool:
    return isinstance(low, int) and isinstance(high, int) and low <= high


def _is_positive(stop: object, *others: object) -> bool:
    return isinstance(stop, int) and (_has_whole(stop, _before(*others)) if others else stop > 0)


def _before(end: object) -> object:
    return end - 1 if isinstance(end, int) else end


def _are_numbers(low: object, high: object) -> bool:
    return isinstance(low, int | float) and isinstance(high, int | float)


def _has_any(things: object) -> bool:
    return isinstance(things, str | list | tuple) and len(things) > 0


def _has_enough(things: object, number: object) -> bool:
    return isinstance(things, str | list | tuple) and isinstance(number, int) and 0 <= number <= len(things)


_CAN_DRAW: Mapping[str, Callable[..., bool]] = {
    "random": lambda: True,
    "randint": _has_whole,
    "randrange": _is_positive,
    "uniform": _are_numbers,
    "choice": _has_any,
    "sample": _has_enough,
}
