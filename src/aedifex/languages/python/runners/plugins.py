"""Plug-ins and tasks: a host program imports the file and looks for these names in it."""

from __future__ import annotations

from aedifex.languages.python.runners.known import KnownRunner, words

RUNNER = KnownRunner(
    name="the program that it plugs into",
    modules=words(
        "IPython sphinx docutils discord bpy nextcord alembic doit invoke fabric locust nox weechat sopel cogs errbot "
        "waflib gdb lldb idaapi hexchat xchat pelican mkdocs pluggy airflow ansible pyblish octoprint"
    ),
    files=words("noxfile.py tasks.py dodo.py fabfile.py locustfile.py wscript setup.py conf.py sitecustomize.py"),
    hooks=words(
        "load_ipython_extension unload_ipython_extension setup teardown register unregister upgrade downgrade task_* "
        "bl_info makeExtension on_* handle_* __virtual__ dag"
    ),
)
