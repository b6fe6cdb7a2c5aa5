"""One run of a program, and what came of it."""
