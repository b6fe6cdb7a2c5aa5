"""Kinds of things: what occurs several times in one shape, however it is stored."""
