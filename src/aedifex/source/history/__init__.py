"""What was rewritten in place in a folder, taking it back, and doing it again."""

from aedifex.source.history.entry import FOLDER, Changed, Entry, State
from aedifex.source.history.journal import History, Outcome

__all__ = ["FOLDER", "Changed", "Entry", "History", "Outcome", "State"]
