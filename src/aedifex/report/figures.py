"""What all pictures share: colours that print well, and how they are saved."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from matplotlib.figure import Figure

INK = "#1c1c1c"
PAPER = "#fdfdfa"
STRIPE = "#f1efe7"
PICTURES = frozenset({"png", "svg"})
"""The kinds of pictures, by the suffix of their files."""

_DOTS_PER_INCH = 150


def save_figure(figure: Figure, kind: str, out: io.BytesIO) -> bytes:
    """A figure as bytes; the same figure gives the same bytes, and text in an SVG stays text."""
    import matplotlib

    with matplotlib.rc_context({"svg.fonttype": "none", "svg.hashsalt": "aedifex"}):
        metadata = {"Date": None} if kind == "svg" else {"Software": None}
        figure.savefig(out, format=kind, dpi=_DOTS_PER_INCH, metadata=metadata, facecolor=figure.get_facecolor())
    return out.getvalue()
