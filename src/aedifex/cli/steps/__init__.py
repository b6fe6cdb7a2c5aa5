"""The moves by hand: one file per move."""
