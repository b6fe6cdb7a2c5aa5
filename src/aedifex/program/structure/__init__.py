"""How a program is built: main code, set-up and loop, state, what is pinned where it is."""
