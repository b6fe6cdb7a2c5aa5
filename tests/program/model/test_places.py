"""Lines of a changed program lead back to the script as it was read, and forth again."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.construction.build import build
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.languages.python import DIALECT
from aedifex.program.reading import read_program
from aedifex.source.errors import Place, RefusedError
from aedifex.source.text import SourceText
from tests.support.helpers import program_of
from tests.support.scripts import write_script, write_whole

PATH = Path("script.py")


@pytest.mark.parametrize("seed", range(5))
@pytest.mark.parametrize("write", [write_script, write_whole])
def test_lines_lead_back_and_forth(write, seed):
    program = read_program([SourceText(PATH, write(seed).encode())], DIALECT)
    ready = prepared(program)
    try:
        after = build(program, propose(ready)).program
    except RefusedError:
        after = ready
    before = program.main.source
    found = 0
    for line in range(1, before.line_count + 1):
        now = ready.line_now(PATH, line)
        if now is not None and ready.main.source.line(now).strip() == before.line(line).strip() != "":
            assert ready.original_place(Place(PATH, now)).line == line
            found += 1
    assert found > before.line_count // 3
    for path, module in after.modules.items():
        for line in range(1, module.source.line_count + 1):
            place = after.original_place(Place(path, line))
            assert place.path == PATH
            assert place.line is None or 1 <= place.line <= before.line_count


def test_a_refusal_names_the_line_of_the_script_as_it_was_read():
    text = "\n\ndef main():\n    x = 0\n    def show():\n        print(f\"{x['a']=}\")\n    while x < 3:\n        x += 1\n        show()\nmain()\n"
    program = program_of(text)
    with pytest.raises(RefusedError) as caught:
        build(program, propose(prepared(program)))
    assert caught.value.place.line == 6
