"""The class design: its data, its file, and drafting one from a survey."""
