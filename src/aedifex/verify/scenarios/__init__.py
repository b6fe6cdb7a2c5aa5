"""The scripted outside world: its file, making it, making it shorter."""
