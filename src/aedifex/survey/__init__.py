"""Facts about a program: who reads and writes what, how long the parts are, what hinders."""
