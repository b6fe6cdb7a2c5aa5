"""Colour names, as the X Window System has them."""

from __future__ import annotations

import re

_NAMES = frozenset(
    "aliceblue antiquewhite aqua aquamarine azure beige bisque black blanchedalmond blue blueviolet brown "
    "burlywood cadetblue chartreuse chocolate coral cornflowerblue cornsilk crimson cyan darkblue darkcyan "
    "darkgoldenrod darkgray darkgreen darkgrey darkkhaki darkmagenta darkolivegreen darkorange darkorchid darkred "
    "darksalmon darkseagreen darkslateblue darkslategray darkslategrey darkturquoise darkviolet deeppink "
    "deepskyblue dimgray dimgrey dodgerblue firebrick floralwhite forestgreen fuchsia gainsboro ghostwhite gold "
    "goldenrod gray green greenyellow grey honeydew hotpink indianred indigo ivory khaki lavender lavenderblush "
    "lawngreen lemonchiffon lightblue lightcoral lightcyan lightgoldenrod lightgoldenrodyellow lightgray "
    "lightgreen lightgrey lightpink lightsalmon lightseagreen lightskyblue lightslateblue lightslategray "
    "lightslategrey lightsteelblue lightyellow lime limegreen linen magenta maroon mediumaquamarine mediumblue "
    "mediumorchid mediumpurple mediumseagreen mediumslateblue mediumspringgreen mediumturquoise mediumvioletred "
    "midnightblue mintcream mistyrose moccasin navajowhite navy navyblue oldlace olive olivedrab orange orangered "
    "orchid palegoldenrod palegreen paleturquoise palevioletred papayawhip peachpuff peru pink plum powderblue "
    "purple red rosybrown royalblue saddlebrown salmon sandybrown seagreen seashell sienna silver skyblue "
    "slateblue slategray slategrey snow springgreen steelblue tan teal thistle tomato turquoise violet violetred "
    "wheat white whitesmoke yellow yellowgreen systembuttonface systemwindow".split()
)
_NUMBERED = re.compile(r"(.*?[a-z])(\d+)$")


def rgb(name: str) -> tuple[int, int, int] | None:
    """Red, green and blue from 0 to 65535; None for what is no colour. Names give a number of their own each."""
    if name.startswith("#"):
        digits = name[1:]
        if len(digits) not in (3, 6, 9, 12) or not all(c in "0123456789abcdefABCDEF" for c in digits):
            return None
        size = len(digits) // 3
        most = 16**size - 1
        return tuple(int(digits[n * size : n * size + size], 16) * 65535 // most for n in range(3))
    plain = name.lower().replace(" ", "")
    numbered = _NUMBERED.match(plain)
    base = numbered[1] if numbered else plain
    if base not in _NAMES:
        return None
    if numbered and int(numbered[2]) > (100 if base in ("gray", "grey") else 4):
        return None
    value = sum(ord(c) * (n + 7) for n, c in enumerate(plain))
    return value * 37 % 65536, value * 101 % 65536, value * 211 % 65536
