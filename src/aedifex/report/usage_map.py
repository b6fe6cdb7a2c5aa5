"""The usage map: a picture of who reads and writes what, with the proposed classes framed."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from aedifex.report.figures import INK, PAPER, STRIPE, save_figure
from aedifex.survey.usage import Usage

if TYPE_CHECKING:
    from matplotlib.axes import Axes

_CELL = 0.26
_MARGIN = 0.35
_LETTER = 0.085
_FRAMES = ("#1b5e8c", "#9c4a1a", "#4a6b1f", "#7a3b7a", "#8a6d00", "#006b6b")


def draw_usage_map(usage: Usage, title: str, kind: str) -> bytes:
    """A picture of a program's usage of its state: `kind` is png or svg.

    Reads are rings, writes are squares, and a square with a hole is both: the form tells, not the colour.
    """
    from matplotlib.figure import Figure

    rows, columns = max(len(usage.variables), 1), max(len(usage.users), 1)
    left = _MARGIN + _LETTER * max((len(name) for name in usage.variables), default=1)
    top = 0.9 + _LETTER * max((len(user.name) for user in usage.users), default=1)
    width = max(left + _CELL * columns + 1.6, 5.6)
    height = top + _CELL * rows + _MARGIN
    figure = Figure(figsize=(width, height), facecolor=PAPER)
    axes: Any = figure.add_axes((left / width, _MARGIN / height, _CELL * columns / width, _CELL * rows / height))
    axes.set_xlim(-0.5, columns - 0.5)
    axes.set_ylim(rows - 0.5, -0.5)
    axes.barh(range(0, rows, 2), columns, height=1, left=-0.5, color=STRIPE, linewidth=0, zorder=0)
    if not usage.variables:
        axes.text(-0.5, 0, "no state that changes", fontsize=9, color=INK, va="center", zorder=3)
    _marks(axes, usage)
    _frames(axes, usage)
    _labels(axes, usage)
    figure.text(_MARGIN / width, 1 - 0.3 / height, title, fontsize=11, fontweight="bold", color=INK, va="center")
    _legend(figure, width, height)
    return save_figure(figure, kind, io.BytesIO())


def _marks(axes: Axes, usage: Usage) -> None:
    row = {name: number for number, name in enumerate(usage.variables)}
    uses = [(column, user) for column, user in enumerate(usage.users)]
    writes = [(column, row[name]) for column, user in uses for name in user.writes if name in row]
    reads = [(column, row[name]) for column, user in uses for name in user.reads - user.writes if name in row]
    both = [(column, row[name]) for column, user in uses for name in user.reads & user.writes if name in row]
    _put(axes, writes, "s", markersize=9, color=INK)
    _put(axes, both, "o", markersize=4, color=PAPER)
    _put(axes, reads, "o", markersize=7, markerfacecolor="none", markeredgecolor=INK, markeredgewidth=1.2)


def _put(axes: Axes, places: Sequence[tuple[int, int]], form: str, **style: Any) -> None:
    """All marks of one form at once: one by one they take long to draw."""
    axes.plot([x for x, _ in places], [y for _, y in places], form, **style)


def _frames(axes: Axes, usage: Usage) -> None:
    from matplotlib.patches import Rectangle

    columns = {user.name: number for number, user in enumerate(usage.users)}
    for number, group in enumerate(usage.groups):
        rows = [row for row, name in enumerate(usage.variables) if name in group.variables]
        own = [columns[name] for name in group.routines if name in columns]
        color = _FRAMES[number % len(_FRAMES)]
        if rows:
            _bracket(axes, min(rows), max(rows), len(usage.users), group.name, color)
        if rows and own:
            corner = (min(own) - 0.46, min(rows) - 0.46)
            size = (max(own) - min(own) + 0.92, max(rows) - min(rows) + 0.92)
            axes.add_patch(Rectangle(corner, *size, fill=False, edgecolor=color, linewidth=2.2, zorder=3))


def _bracket(axes: Axes, first: int, last: int, right: int, name: str, color: str) -> None:
    """The class's name at the right of its rows."""
    at = right - 0.35
    axes.plot([at, at], [first - 0.4, last + 0.4], color=color, linewidth=3, clip_on=False, solid_capstyle="butt")
    axes.text(at + 0.3, (first + last) / 2, name, va="center", fontsize=9, color=color, fontweight="bold")


def _labels(axes: Axes, usage: Usage) -> None:
    axes.set_xticks([])
    axes.set_yticks([])
    style: dict[str, Any] = {"fontsize": 8.5, "color": INK, "family": "monospace", "clip_on": False}
    for row, name in enumerate(usage.variables):
        axes.text(-0.75, row, name, ha="right", va="center", **style)
    for column, user in enumerate(usage.users):
        slant = "italic" if user.is_main else "normal"
        axes.text(column, -0.75, user.name, ha="center", va="bottom", rotation=90, fontstyle=slant, **style)
    for side in axes.spines.values():
        side.set_visible(False)
    edges = [column - 0.5 for column in range(len(usage.users) + 1)]
    axes.vlines(edges, -0.5, len(usage.variables) - 0.5, color="#d9d6cc", linewidth=0.5, zorder=1)


def _legend(figure: Any, width: float, height: float) -> None:
    """What the marks mean, in one line below the title."""
    strip = figure.add_axes((_MARGIN / width, 1 - 0.68 / height, 4.6 / width, 0.26 / height))
    strip.set_xlim(0, 4.6)
    strip.set_ylim(-1, 1)
    strip.axis("off")
    strip.plot(0.1, 0, "o", markersize=7, markerfacecolor="none", markeredgecolor=INK, markeredgewidth=1.2)
    strip.plot(0.9, 0, "s", markersize=9, color=INK)
    strip.plot(1.8, 0, "s", markersize=9, color=INK)
    strip.plot(1.8, 0, "o", markersize=4, color=PAPER)
    for at, text in ((0.24, "reads"), (1.06, "writes"), (1.96, "both"), (2.6, "main code in italics")):
        strip.text(at, 0, text, fontsize=8.5, color=INK, va="center")
