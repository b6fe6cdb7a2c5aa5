"""Where names cannot be followed."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    pass


@dataclass(frozen=True, slots=True)
class Hindrance:
    """A place where names cannot be followed. `touches` names the state it may reach; None means all of it."""

    path: Path
    line: int
    reason: str
    touches: frozenset[str] | None = None

    def may_touch(self, name: str) -> bool:
        """Whether it may read or write the state of this name."""
        return self.touches is None or name in self.touches
