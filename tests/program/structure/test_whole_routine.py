"""The routine that is the whole program, however it is called."""

from __future__ import annotations

import pytest

from aedifex.program.structure.whole_routine import whole_routine_of
from tests.support.hazards import play_apart
from tests.support.helpers import module_of
from tests.support.scripts import outcome

ROUTINE = """\
{head}
    \"\"\"Go on for a while.\"\"\"
    total = 0
    marks = []
    while total < 6:
        total += 2
        marks.append(total)
        print(total, marks)
    return total


"""


@pytest.mark.parametrize(
    ("head", "users"),
    [
        ("def main():", "try:\n    main()\nexcept KeyboardInterrupt:\n    print('bye')"),
        ("def main():", "raise SystemExit(main())"),
        ("def main():", ""),
        ("def main(limit, *more, best=0, **rest):", "for n in (1, 2):\n    print(main(n, 3, best=4, word=5))"),
        ("def start(limit):", "def wrapper(f):\n    print('in')\n    f(3)\n    print('out')\n\n\nwrapper(start)"),
        ("async def main():", "import asyncio\nprint(asyncio.run(main()))"),
        ("def main(log=[]):", "main()\nmain()\nprint(main.__doc__, main.__name__)"),
    ],
)
def test_it_is_built_and_does_the_same(head, users):
    text = f"{ROUTINE.format(head=head)}{users}\n"
    assert outcome(text, play=play_apart) == "same"


@pytest.mark.parametrize(
    "text",
    [
        "def main():\n    print('x')\n\n\nmain()\n",
        "def main():\n    n = 0\n    while n < 3:\n        n += 1\n        yield n\n\n\nprint(list(main()))\n",
        "main = None\ndef main():\n    n = 0\n    while n < 3:\n        n += 1\n\n\nmain()\nmain()\n",
        "def main():\n    n = 0\n    while n < 3:\n        n += 1\n    print(locals())\n\n\nmain()\nmain()\n",
        "print('before')\ndef main():\n    n = 0\n    while n < 3:\n        n += 1\n\n\nmain()\nmain()\n",
    ],
)
def test_what_is_none(text):
    assert whole_routine_of(module_of(text)) is None
