"""Names, statements, modules, programs: plain data that a reader sets."""
