"""Files that are pictures: which kinds there are, and writing them."""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.report.figures import PICTURES


def kind_of(path: Path, kinds: frozenset[str] = PICTURES) -> str:
    """The kind of picture that a file's suffix asks for.

    Raises:
        click.UsageError: there is no such kind.
    """
    kind = path.suffix.removeprefix(".").lower()
    if kind not in kinds:
        raise click.UsageError(f"{path.name} must end in {' or '.join(f'.{known}' for known in sorted(kinds))}")
    return kind


def write_picture(path: Path, data: bytes) -> None:
    """Write a picture and say where it is."""
    from aedifex.source.files import write_bytes

    write_bytes(path, data)
    click.echo(f"Picture written to {path}.", err=True)
