"""What runs inside the child process: the scripted world that a program is played in.

Nothing here imports the rest of Aedifex, so that any Python can run it.
"""
