"""The language-neutral model of a program, and the questions one can ask of it."""
