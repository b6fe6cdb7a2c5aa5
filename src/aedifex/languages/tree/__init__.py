"""What all readers share that walk a syntax tree of tree-sitter; no language itself."""
