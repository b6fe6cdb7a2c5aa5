"""Running written tests as their users will: in another folder, with other hashes, in another order, at any time."""

from __future__ import annotations

import json
import shutil
import tempfile
from collections.abc import Mapping
from pathlib import Path

from aedifex.program.dialect.runner import Runner
from aedifex.verify.running.child import Child

_SECONDS = 20
TIMES = 10


def failing(built: Path, package: str, test_file: str, text: str, runner: Runner, times: int = TIMES) -> dict[str, str]:
    """The tests of a file that fail in any of so many runs, each with its error.

    `built` is the folder of the program, which stands in the dotted `package` where that is not empty. The name ""
    stands for the file itself, which cannot be read.

    Raises:
        RunError: the tests do not come to an end.
    """
    found: dict[str, str] = {}
    for number in range(times):
        found.update(_one_run(built, package, test_file, text, runner, number))
        if "" in found:
            break
    return found


def _one_run(built: Path, package: str, test_file: str, text: str, runner: Runner, number: int) -> Mapping[str, str]:
    with (
        tempfile.TemporaryFile() as typed,
        tempfile.TemporaryFile() as out,
        tempfile.TemporaryFile() as err,
        Child.started([typed, out, err]) as child,
    ):
        root = child.work / f"elsewhere-{number}"
        folder = root.joinpath(*package.split(".")) if package else root
        shutil.copytree(built, folder)
        for inside in (folder, *folder.parents):
            if inside == root:
                break
            (inside / runner.package_mark()).touch()
        (folder / test_file).write_text(text, encoding="utf-8")
        command = runner.trial(root, folder / test_file, backwards=bool(number % 2))
        child.run(command, runner.trial_environment(number), folder, _SECONDS, 1, folder / test_file)
        out.seek(0)
        lines = out.read().decode("utf-8", "replace").strip().splitlines()
    try:
        answer: Mapping[str, str] = json.loads(lines[-1])
    except (IndexError, ValueError):
        return {"": "the tests could not be run"}
    return answer
