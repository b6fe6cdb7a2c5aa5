"""Which lines deserve a method of their own: turns, blocks, stories."""
