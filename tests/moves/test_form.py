from __future__ import annotations

import pytest

from aedifex.moves.form import Form, NewField
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed


def form(*variables: str, arguments: tuple[str, ...] = ()) -> Form:
    fields = tuple(NewField(v, v.removeprefix("ferry_"), v in arguments) for v in variables)
    return Form(SCRIPT, "Ferry", "ferry", fields)


def formed(text: str, *variables: str, arguments: tuple[str, ...] = ()) -> str:
    return moved(text, form(*variables, arguments=arguments))["script.py"]


def same(text: str, *variables: str, arguments: tuple[str, ...] = ()) -> str:
    result = formed(text, *variables, arguments=arguments)
    assert printed(result) == printed(text)
    return result


def test_variables_become_fields_of_one_object():
    result = same(
        """
        # --- the ferry
        ferry_x = 3  # planks from the bank
        # how fast
        ferry_speed: int = 2

        def move():
            global ferry_x
            ferry_x += ferry_speed

        move()
        print(ferry_x)
        """,
        "ferry_x",
        "ferry_speed",
        arguments=("ferry_x",),
    )
    assert (
        result
        == """class Ferry:
    def __init__(self, x):
        self.x = x  # planks from the bank
        # how fast
        self.speed: int = 2


ferry = Ferry(3)

def move():
    ferry.x += ferry.speed

move()
print(ferry.x)
"""
        or result.lstrip("\n").startswith("class Ferry:")
    )
    assert "global" not in result
    assert "# --- the ferry" not in result


def test_shadowing_names_are_left_alone():
    result = same(
        """
        ferry_x = 3
        def f(ferry_x, g=lambda ferry_x: ferry_x + 1):
            return g(ferry_x), [ferry_x for ferry_x in range(2)], "ferry_x"  # ferry_x
        print(f(ferry_x), ferry_x, dict(ferry_x=ferry_x))
        """,
        "ferry_x",
    )
    assert "print(f(ferry.x), ferry.x, dict(ferry_x=ferry.x))" in result
    assert 'return g(ferry_x), [ferry_x for ferry_x in range(2)], "ferry_x"  # ferry_x' in result


def test_templates_that_show_their_own_text_keep_it():
    result = same("ferry_x = 3\nprint(f'{ferry_x=} {ferry_x = :>4} {ferry_x+1=!s}')\n", "ferry_x")
    assert "ferry_x={ferry.x!r} ferry_x = {ferry.x:>4} ferry_x+1={ferry.x+1!s}" in result


def test_every_kind_of_target():
    same(
        """
        ferry_x = ferry_y = 0
        ferry_z, ferry_w = 1, 2
        def f():
            global ferry_x, ferry_y, ferry_z, ferry_w
            for ferry_x in range(3): pass
            ferry_y, *ferry_z = [1, 2, 3]
            with open("/dev/null") as ferry_w: pass
            ferry_w = ferry_x
            del ferry_x
        f()
        print(ferry_y, ferry_z, ferry_w)
        """,
        "ferry_x",
        "ferry_y",
        "ferry_z",
        "ferry_w",
    )


def test_a_value_moves_only_past_what_cannot_notice():
    result = same(
        """
        ferry_x = 1
        limit = 5
        def grow():
            global limit, ferry_load
            limit += 1
            ferry_load = 9
        grow()
        ferry_speed = limit
        ferry_load = 2
        print(ferry_x, ferry_speed, ferry_load)
        """,
        "ferry_x",
        "ferry_speed",
        "ferry_load",
    )
    assert "ferry.speed = limit" in result
    assert "ferry.load = 2" in result


def test_effects_keep_their_order():
    result = same(
        """
        def say(n):
            print(n)
            return n
        ferry_x = say(1)
        ferry_y = say(2)
        print("between")
        ferry_z = say(3)
        print(ferry_x, ferry_y, ferry_z)
        """,
        "ferry_x",
        "ferry_y",
        "ferry_z",
    )
    assert "ferry = Ferry(ferry_x, ferry_y, say(3))" in result


def test_a_first_value_that_cannot_move_is_handed_over():
    result = same(
        """
        import random
        random.seed(3)
        kite_x = 10
        kite_pull = random.random()
        print(random.random())
        kite_turn = random.random()
        def show():
            print(kite_x, kite_pull, kite_turn)
        show()
        """,
        "kite_x",
        "kite_pull",
        "kite_turn",
    )
    assert "kite_pull = random.random()\nprint" in result
    assert "ferry = Ferry(kite_pull, random.random())" in result
    assert "        self.kite_x = 10\n" in result


def test_an_object_that_is_used_before_its_last_value_is_made_early():
    result = same(
        """
        ferry_x = 10
        def show():
            print(ferry_x)
        show()
        print("between")
        ferry_z = input() if ferry_x > 11 else len(input.__name__)
        print(ferry_x, ferry_z)
        """,
        "ferry_x",
        "ferry_z",
    )
    assert "\nferry = Ferry()\n" in result
    assert "ferry.z = " in result


def test_a_value_that_waits_gives_way_to_the_object_s_name():
    result = same(
        """
        def say(n):
            print(n)
            return n
        ferry = say(1)
        ferry += 1
        print(ferry)
        ferry_z = say(3)
        print(ferry, ferry_z)
        """,
        "ferry",
        "ferry_z",
    )
    assert "first_ferry += 1" in result
    assert "ferry = Ferry(first_ferry, say(3))" in result


def test_a_conditional_start_stays_conditional():
    result = same(
        "ferry_x = 1\nif ferry_x > 3:\n    ferry_y = 2\nelse:\n    ferry_y = 5\nprint(ferry_y)\n", "ferry_x", "ferry_y"
    )
    assert "    ferry.y = 5" in result


def test_a_shared_mutable_start_stays_shared():
    same("ferry_a = ferry_b = []\nferry_c = 0\nferry_a.append(1)\nprint(ferry_b, ferry_c)\n", "ferry_b", "ferry_c")


def test_names_set_together_are_parted():
    result = same("ferry_x, tide = 1, 2\nprint(ferry_x, tide)\n", "ferry_x")
    assert "tide = 2" in result


def test_fields_computed_from_fields():
    result = same("ferry_x = 2\nferry_y = ferry_x * 3\nprint(ferry_y)\n", "ferry_x", "ferry_y", arguments=("ferry_y",))
    assert "self.y = self.x * 3" in result


def test_line_endings_and_tabs_of_the_file_are_kept():
    text = "ferry_x = 1\r\ndef f():\r\n\tglobal ferry_x\r\n\tferry_x = 2\r\nf()\r\nprint(ferry_x)\r\n"
    result = same(text, "ferry_x")
    assert "\r\n" in result
    assert "\n" not in result.replace("\r\n", "")
    assert "\tdef __init__(self):\r\n\t\tself.x = 1\r\n" in result


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("ferry_x = 1\nif (ferry_x := 2) > 1: pass\n", "inside an expression"),
        ("ferry_x = 1\ntry: pass\nexcept ValueError as ferry_x: pass\n", "caught error"),
        ("ferry_x = 1\nmatch 2:\n    case ferry_x: pass\n", "match pattern"),
        ("import ferry_x\nferry_x = 1\n", "imported name"),
        ("ferry_x = 1\nglobals()['ferry_x'] = 2\n", "globals"),
        ("ferry_x = 1\nexec('ferry_x = 2')\n", "exec"),
        ("ferry_x = 1\nimport __main__\nsetattr(__main__, 'ferry_x', 2)\n", "setattr"),
        ("ferry_x = 1\ntry:\n    print(ferry_y)\nexcept NameError: pass\n", "NameError"),
        ("ferry_x = 1\ndef f(ferry): print(ferry_x)\n", "something else"),
        ("ferry_x = 1\nferry = 2\n", "in use"),
        ("def ferry_x(): pass\n", "not a variable"),
        ("if input(): ferry_x = 1\n", "no field"),
        ("ferry_x = 1\nprint(f'{ferry_x[\"a\"]=}')\n", "template"),
    ],
)
def test_refusals_name_the_reason(text, reason):
    with pytest.raises(RefusedError, match=reason):
        formed(text, "ferry_x")


def test_a_builtin_name_that_may_still_mean_the_builtin_is_refused():
    with pytest.raises(RefusedError, match="builtin"):
        formed("max = max(1, 2)\nprint(max)\n", "max")


def test_other_globals_that_are_touched_by_name_do_not_matter():
    same("ferry_x = 1\nother = 2\nglobals()['other'] = 3\nprint(ferry_x, other)\n", "ferry_x")


def test_what_is_said_of_the_whole_file_stays_at_its_top():
    own = "# the ferry lies here\nferry_x = 1\nkite = 2\nprint(ferry_x, kite)\n"
    about_all = own.replace("# the ferry lies here", "# the quay: ferry and kite")
    assert '"""The ferry lies here."""' in same(own, "ferry_x")
    assert same(about_all, "ferry_x").startswith("# the quay: ferry and kite\n")
