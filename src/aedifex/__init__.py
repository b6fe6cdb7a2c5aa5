"""Aedifex turns procedural scripts into cohesive classes, and shows that nothing else changed."""

__version__ = "0.1.0"
