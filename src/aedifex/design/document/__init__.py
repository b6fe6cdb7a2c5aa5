"""The design: its data, its file, checking, updating and revising it."""
