"""The command line: arguments in, results out."""
