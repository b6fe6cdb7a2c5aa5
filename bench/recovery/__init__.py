"""How well `draft` finds the classes of programs that were flattened to procedural scripts."""
