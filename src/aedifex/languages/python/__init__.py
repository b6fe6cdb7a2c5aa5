"""Python: reading it into the model, and writing it."""
