"""Carrying out a design as a sequence of moves, and checking the result."""
