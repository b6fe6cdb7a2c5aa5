"""The command `aedifex`: finds its subcommands in the folder beside it, and turns errors into words."""

from __future__ import annotations

import errno
import gc
import sys

import click

from aedifex import __version__
from aedifex.cli import commands
from aedifex.cli.found import Found
from aedifex.cli.streams import leave_stream, open_missing_streams
from aedifex.cli.words import exit_code_of, in_words
from aedifex.source.errors import AedifexError

_INTERRUPTED = 130
_UNWRITABLE = 3
_ORDER = ("survey", "draft", "build", "verify", "report", "tests", "step", "history", "undo", "redo", "demo")


@click.command(
    cls=Found,
    package=commands,
    order=_ORDER,
    context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100},
)
@click.version_option(__version__, message="aedifex %(version)s")
def program() -> None:
    """Turn a working procedural script into cohesive classes, and see that it still does the same.

    \b
    aedifex survey game.py                 look at it: state, routines, what hinders
    aedifex draft game.py                  propose classes, in a file to edit
    aedifex build game.design.toml --into built
    aedifex verify game.py built/game.py --scenario game.scenario.toml
    """


def main() -> None:
    """Run the command line and leave with one of the documented exit codes."""
    # A run is short and its models are full of circles that live to its end: looking for garbage finds none.
    gc.disable()
    missing, output = open_missing_streams(), sys.stdout
    try:
        code = program(standalone_mode=False)
        sys.stdout.flush()
        if missing:
            raise OSError(errno.EBADF, "it is closed")
    except AedifexError as error:
        click.echo(in_words(error), err=True)
        code = exit_code_of(error)
    except click.ClickException as error:
        error.show()
        code = error.exit_code
    except (click.Abort, KeyboardInterrupt):
        click.echo("stopped", err=True)
        code = _INTERRUPTED
    except SystemExit as leaving:
        code = leaving.code if sys.stdout is output else 0  # click has found that nobody reads any more
    except BrokenPipeError:
        leave_stream(sys.stdout)
        code = 0
    except OSError as error:
        leave_stream(sys.stdout)
        click.echo(f"standard output cannot be written: {error.strerror}", err=True)
        code = _UNWRITABLE
    sys.exit(code if isinstance(code, int) else 0)
