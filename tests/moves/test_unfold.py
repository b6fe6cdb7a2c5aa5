"""unfold, loosen: state in one function, behind the guard or in one table comes to where moves can reach it."""

from __future__ import annotations

import pytest

from aedifex.construction.prepare import prepared
from aedifex.moves.unfold import unfolds
from tests.support.helpers import printed, program_of
from tests.support.scripts import outcome


def ready(text: str) -> str:
    program = prepared(program_of(text))
    result = program.main.source.data.decode()
    assert printed(result) == printed(text)
    return result


WHOLE = '''
"""The quay."""


def bar(n):
    return "#" * n


def main(gusts=3):
    """What happens."""
    height = 0  # of the kite
    log = []

    def fly(by):
        nonlocal height
        height += by
        log.append(height)

    while len(log) < gusts:
        fly(2)
        print(bar(height))
    return height


if __name__ == "__main__":
    end = main(4)
    print(end)
'''


def test_a_function_that_is_the_program_comes_to_the_top_level():
    result = ready(WHOLE)
    assert "def main" not in result
    assert "global height" in result
    assert "gusts = 4\n" in result
    assert "height = 0  # of the kite\n" in result
    assert "end = height\nprint(end)" in result


def test_code_behind_the_guard_comes_to_the_top_level():
    text = "def f():\n    return n\n\nif __name__ == '__main__':\n    # how many\n    n = 2\n    while n:\n        n -= 1\n        print(f())\n"
    assert ready(text) == "def f():\n    return n\n\n# how many\nn = 2\nwhile n:\n    n -= 1\n    print(f())\n"


@pytest.mark.parametrize(
    ("before", "inside", "call"),
    [
        ("", "x = 1\n    while x < 3:\n        x += 1", "main()\nmain()"),
        ("x = 5\n", "x = 1\n    while x < 3:\n        x += 1", "main()\nprint(x)"),
        ("", "x = 1\n    while x < 3:\n        x += 1\n    print(locals())", "main()"),
        ("", "x = 1\n    while x < 3:\n        x += 1\n    yield x", "print(list(main()))"),
        ("def f(): return max(1, 2)\n", "max = 1\n    while max < 3:\n        max += 1\n    print(f())", "main()"),
        (
            "",
            "x = 1\n    while x < 3:\n        x += 1\n        if x == 2:\n            return",
            "main()\nfor _ in '1':\n    print('after')",
        ),
        (
            "",
            "x = 1\n    while x < 3:\n        x += 1\n        if x == 2:\n            return 5\n    return x",
            "y = main()\nprint(y)",
        ),
        ("", "x = 1\n    while x < 3:\n        x += 1", "try:\n    main()\nfinally:\n    print('end')"),
        ("", "print(1)", "main()"),
    ],
)
def test_what_would_mean_something_else_stays(before, inside, call):
    text = f"{before}def main():\n    {inside}\n\n\n{call}\n"
    assert not unfolds(program_of(text).main)


def test_a_table_becomes_variables():
    text = """
game = {
    "score": 0,  # points
    # how many are left
    "lives": 2, "log": [1,
    2],
}


def hit(n):
    '''A hit.'''
    game["score"] += n
    game['log'].append(n)
    return [game["score"] for _ in range(2)]


def miss():
    def inner():
        game["lives"] -= 1
    inner()
    print(f"{game['lives']} left")


print(hit(2), miss(), game["score"], game["log"][-1])
"""
    result = ready(text)
    assert "game_score = 0  # points\n# how many are left\ngame_lives = 2\ngame_log = [1,\n    2]\n" in result
    assert "    '''A hit.'''\n    global game_score\n    game_score += n\n    game_log.append(n)\n" in result
    assert "        global game_lives\n        game_lives -= 1\n" in result
    assert 'print(f"{game_lives} left")' in result


@pytest.mark.parametrize(
    "use",
    [
        "print(game)",
        "print(len(game))",
        "print(game.get('a'))",
        "print('a' in game)",
        "for k in game: print(k)",
        "game['new'] = 3",
        "k = 'a'\nprint(game[k])",
        "del game['a']",
        "other = game\nother['a'] = 3",
        "game = {'a': 5, 'b': 6}",
        "game_a = 5\nprint(game_a)",
        "print(f\"{game['a']=}\")",
        "def f(): game['a'] = 2\nf()",
        "f = lambda: game\nprint(f()['a'])",
        "print(globals()['game'])",
        "def f(game_a): return game['a']\nprint(f(2))",
    ],
)
def test_a_table_that_is_used_whole_stays(use):
    text = f"game = {{'a': 1, 'b': 2}}\ngame['a'] += 1\n{use}\n"
    assert ready(text) == text


@pytest.mark.parametrize(
    "made",
    [
        "{'a': 1, 'b': 2, **{}}",
        "{'a': 1, 'a': 2}",
        "{'a': 1, 2: 2}",
        "{'a b': 1, 'b': 2}",
        "{'class': 1, 'b': 2}",
        "{'a': 1}",
        "dict(a=1, b=2)",
    ],
)
def test_a_table_with_other_keys_stays(made):
    text = f"game = {made}\nfor _ in range(2):\n    print(game.get('a'))\n"
    assert ready(text) == text


@pytest.mark.parametrize(
    ("leave", "call", "end"),
    [
        ("return x", "print(main())", "print(x)\n"),
        ("return x, 2", "print(main())", "print((x, 2))\n"),
        ("return", "print(main())", "print(None)\n"),
        ("print('end')", "print(main())", "print('end')\nprint(None)\n"),
        ("return x", "y = main()", "y = x\n"),
        ("return x", "main()", "    x += 1\n"),
    ],
)
def test_what_the_function_gives_goes_where_it_went(leave, call, end):
    text = f"def main():\n    x = 1\n    while x < 3:\n        x += 1\n    {leave}\n\n\n{call}\n"
    assert ready(text).endswith(end)


@pytest.mark.parametrize("gap", ["", "\n", "\n\n\n", "# start\n"])
@pytest.mark.parametrize("guard", ["main()\n", "if __name__ == '__main__':\n    main()\n"])
def test_the_call_may_stand_right_below_the_function(gap, guard):
    assert "def main" not in ready(
        f"def main():\n    x = 1\n    while x < 3:\n        x += 1\n        print(x)\n{gap}{guard}"
    )


@pytest.mark.parametrize("leave", ["return 4", "return x, 2", "return", "return x"])
@pytest.mark.parametrize("call", ["print(main())", "import sys\nsys.exit(main())", "print((lambda v: v)(main()))"])
def test_an_early_value_goes_where_it_went(leave, call):
    text = f"""\
def main():
    x = 1
    y = 0

    def up():
        nonlocal x
        x += 1

    while x < 4:
        up()
        print(x, y)
        if x == 3:
            {leave}
    return x


{call}
"""
    end = outcome(text)
    assert end == "same" if "lambda" not in call else not end.startswith("different")


def test_an_early_value_that_something_is_closed_behind_stays():
    text = "def main():\n    x = 1\n    while x < 3:\n        try:\n            return 4\n        finally:\n            x += 1\n    return x\n\n\nprint(main())\n"
    assert not unfolds(program_of(text).main)


@pytest.mark.parametrize("leave", ["return", "return print('six')", "return x"])
@pytest.mark.parametrize("after", ["print('closed', y)", "print('closed', y)\nprint(y)"])
def test_what_follows_the_call_comes_before_each_early_return(leave, after):
    text = f"""\
y = 0


def main():
    global y
    x = 1
    while True:
        x += 1
        y += x
        for _ in range(x):
            if x == 6:
                {leave}
            print(x, y)


main()
{after}
"""
    assert not any(routine.name == "main" for routine in prepared(program_of(text)).main.routines)
    assert outcome(text) == "same"


@pytest.mark.parametrize(
    "after",
    ["if x:\n    print(y)", "print(1)\nprint(2)\nprint(3)", 'print("""a\nb""")'],
)
def test_a_longer_end_keeps_the_function_as_it_is(after):
    loop = "def main():\n    y = 1\n    while True:\n        y += 1\n        if y == 4:\n            return\n"
    text = f"x = 0\n\n\n{loop}\n\nmain()\n{after}\n"
    assert not unfolds(program_of(text).main)


def test_a_long_function_is_the_program_among_many_other_statements():
    text = "a = 1\nb = 2\n" + "print(a, b)\n" * 6
    text += "\n\ndef main():\n    y = 1\n    while y < 9:\n" + "        y += 1\n" * 12 + "\n\nmain()\n"
    assert "def main" not in ready(text)
    assert "def main" in ready(text + "print(b)\n" * 12)
