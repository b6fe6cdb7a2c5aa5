"""The classes before and after as a drawing: PNG, SVG, plain text, and the open text formats for diagrams."""

from __future__ import annotations

import io
import re
import textwrap
from collections.abc import Callable, Sequence
from typing import Any

from aedifex.design.picture import Box, ClassPicture, Link
from aedifex.report.figures import INK, PAPER, PICTURES, STRIPE, save_figure

_LINE = 0.2
_LETTER = 0.077
_TITLE_LETTER = 0.1
_LANE = 0.34
_PAD = 0.14
_GAP = 0.55
_MOST_LINES = 14
_ARROWS = {"makes": "-->", "given": "..>", "base": "--|>"}


def draw_classes(picture: ClassPicture, kind: str) -> bytes:
    """The picture as a file of a kind: one of `KINDS`."""
    return _draw(picture, kind) if kind in PICTURES else _TEXTS[kind](picture).encode("utf-8")


# -- drawn


def _draw(picture: ClassPicture, kind: str) -> bytes:
    """Before at the left, the owner in the middle, its classes at the right."""
    from matplotlib.figure import Figure

    owner, *others = picture.after
    sizes = {box.name: _size(box) for box in (picture.before, *picture.after)}
    column = [sizes[picture.before.name][0], sizes[owner.name][0], max((sizes[b.name][0] for b in others), default=0)]
    right_height = sum(sizes[box.name][1] + 0.3 for box in others)
    tall = max(sizes[picture.before.name][1], sizes[owner.name][1], right_height)
    order = [box.name for box in others]
    handed = [link for link in picture.links if link.label]
    handed.sort(key=lambda link: abs(order.index(link.source) - order.index(link.target)))
    width, height = sum(column) + 2 * _GAP + 1.4 + _LANE * (len(handed) + 1), tall + 1.2
    figure = Figure(figsize=(width, height), facecolor=PAPER)
    axes: Any = figure.add_axes((0, 0, 1, 1))
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.axis("off")
    lefts = [0.3, 0.3 + column[0] + _GAP + 0.4, 0.3 + column[0] + column[1] + 2 * _GAP + 0.8]
    for left, text in zip(lefts, ("before", "after: the owner", "after: its classes"), strict=True):
        axes.text(left, 0.32, text, fontsize=10, color="#5c5a52", va="center")
    _box(axes, picture.before, lefts[0], 0.6, sizes)
    _box(axes, owner, lefts[1], 0.6, sizes)
    tops: dict[str, float] = {}
    top = 0.6
    for box in others:
        tops[box.name] = top
        _box(axes, box, lefts[2], top, sizes)
        top += sizes[box.name][1] + 0.3
    _arrow(axes, (lefts[0] + column[0] + 0.12, 0.85), (lefts[1] - 0.12, 0.85), "becomes", width=2.4)
    edge = lefts[1] + sizes[owner.name][0]
    for box in (box for box in others if box.is_made_by_owner):
        end = tops[box.name] + 0.22
        start = min(max(end, 0.75), 0.6 + sizes[owner.name][1] - 0.15)
        _arrow(axes, (edge + 0.03, start), (lefts[2] - 0.03, end), "")
    for number, link in enumerate(handed):
        lane = lefts[2] + column[2] + _LANE * (number + 1)
        ends = [(lefts[2] + sizes[name][0], tops[name] + 0.45) for name in (link.source, link.target)]
        _hand_over(axes, lane, ends, link.label)
    note = "solid: makes" + ("   dashed: what a method of the other is given" if handed else "")
    axes.text(lefts[1], height - 0.25, note, fontsize=8.5, color="#5c5a52", va="center")
    return save_figure(figure, kind, io.BytesIO())


def _title(box: Box) -> str:
    """A class's name, what it is a part of or comes from, and that there are several objects of it."""
    if box.whole:
        return f"{box.name}, part of {box.whole}"
    if box.is_base:
        return f"{box.name}, what others share"
    name = f"{box.name}, from {box.base}" if box.base else box.name
    return f"{name}, several" if box.is_many else name


def _size(box: Box) -> tuple[float, float]:
    lines = [*_shown(box.fields), *_shown(box.methods)]
    widest = max([len(_title(box)) * _TITLE_LETTER, *(len(line) * _LETTER for line in lines)])
    return widest + 2 * _PAD, 0.34 + len(lines) * _LINE + 2.4 * _PAD


def _shown(names: Sequence[str]) -> list[str]:
    """Names as lines; many are gathered on few lines."""
    if len(names) <= _MOST_LINES:
        return list(names)
    return textwrap.wrap(", ".join(names), 44, break_long_words=False)


def _box(axes: Any, box: Box, left: float, top: float, sizes: dict[str, tuple[float, float]]) -> None:
    from matplotlib.patches import Rectangle

    width, height = sizes[box.name]
    axes.add_patch(Rectangle((left, top), width, height, facecolor="white", edgecolor=INK, linewidth=1.3, zorder=2))
    axes.add_patch(Rectangle((left, top), width, 0.34, facecolor=STRIPE, edgecolor=INK, linewidth=1.3, zorder=2))
    axes.text(left + _PAD, top + 0.18, _title(box), fontsize=10.5, fontweight="bold", color=INK, va="center", zorder=3)
    at = top + 0.34 + _PAD
    for number, names in enumerate((box.fields, box.methods)):
        if number:
            axes.plot([left, left + width], [at - 0.02, at - 0.02], color=INK, linewidth=0.7, zorder=3)
            at += _PAD * 0.6
        for line in _shown(names):
            axes.text(left + _PAD, at + 0.04, line, fontsize=9, color=INK, va="center", family="monospace", zorder=3)
            at += _LINE


def _arrow(axes: Any, start: tuple[float, float], end: tuple[float, float], label: str, width: float = 1.2) -> None:
    axes.annotate("", xy=end, xytext=start, arrowprops={"arrowstyle": "-|>", "color": INK, "linewidth": width})
    if label:
        axes.text((start[0] + end[0]) / 2, start[1] - 0.13, label, fontsize=8, color=INK, ha="center")


def _hand_over(axes: Any, lane: float, ends: Sequence[tuple[float, float]], label: str) -> None:
    """A dashed line down a lane at the right, from the class that a value is of to the one that is given it."""
    (left, top), (right, bottom) = ends
    dashes = {"color": INK, "linewidth": 1, "linestyle": (0, (4, 3))}
    axes.plot([left, lane, lane], [top, top, bottom], **dashes)
    axes.annotate("", xy=(right + 0.02, bottom), xytext=(lane, bottom), arrowprops={"arrowstyle": "-|>", **dashes})
    axes.text(lane + 0.05, (top + bottom) / 2, label, fontsize=8, color=INK, va="center", rotation=270)


# -- written


def _plain(picture: ClassPicture) -> str:
    """Boxes of plain characters, one below the other, with the links in words."""
    lines = ["before", "", *_plain_box(picture.before), "", "after", ""]
    for box in picture.after:
        lines += [*_plain_box(box), ""]
    for link in picture.links:
        lines.append(f"{link.source} -- {_relation(link)} --> {link.target}")
    return "\n".join(lines) + "\n"


def _plain_box(box: Box) -> list[str]:
    parts = [[_title(box)], _shown(box.fields), _shown(box.methods)]
    width = max(len(line) for part in parts for line in part)
    rule = f"+{'-' * (width + 2)}+"
    found = [rule]
    for part in parts:
        found += [f"| {line:<{width}} |" for line in part] + [rule]
    return found


def _mermaid(picture: ClassPicture) -> str:
    lines = ["classDiagram"]
    for box in picture.after:
        lines.append(f"  class {box.name} {{")
        lines += [f"    +{name}" for name in (*box.fields, *box.methods)]
        lines.append("  }")
    for link in picture.links:
        lines.append(f"  {link.source} {_ARROWS[_line(link)]} {link.target} : {_relation(link)}")
    return "\n".join(lines) + "\n"


def _plantuml(picture: ClassPicture) -> str:
    lines = ["@startuml"]
    for box in picture.after:
        lines += [f"class {box.name} {{", *(f"  +{name}" for name in (*box.fields, *box.methods)), "}"]
    for link in picture.links:
        lines.append(f"{link.source} {_ARROWS[_line(link)]} {link.target} : {_relation(link)}")
    return "\n".join([*lines, "@enduml"]) + "\n"


def _dot(picture: ClassPicture) -> str:
    lines = ["digraph classes {", "  node [shape=record fontname=monospace];"]
    for box in picture.after:
        fields, methods = (r"\l".join([*map(_escaped, names), ""]) for names in (box.fields, box.methods))
        lines.append(f'  {box.name} [label="{{{box.name}|{fields}|{methods}}}"];')
    for link in picture.links:
        style = {"given": " style=dashed", "base": " arrowhead=empty", "makes": ""}[_line(link)]
        lines.append(f'  {link.source} -> {link.target} [label="{_relation(link)}"{style}];')
    return "\n".join([*lines, "}"]) + "\n"


def _line(link: Link) -> str:
    return "base" if link.is_base else "given" if link.label else "makes"


def _relation(link: Link) -> str:
    """What one class has to do with another, in words."""
    return "comes from" if link.is_base else link.label or "makes"


def _escaped(text: str) -> str:
    return re.sub(r'([{}|<>"\\])', r"\\\1", text)


_TEXTS: dict[str, Callable[[ClassPicture], str]] = {"txt": _plain, "mmd": _mermaid, "puml": _plantuml, "dot": _dot}
KINDS = PICTURES | _TEXTS.keys()
"""The kinds of files that a picture of classes can be, by their suffixes."""
