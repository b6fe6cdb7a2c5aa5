"""What upper layers ask of a language, in seven protocols."""
