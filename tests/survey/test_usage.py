from __future__ import annotations

from aedifex.survey.usage import Group, usage
from tests.support.helpers import program_of

TEXT = """
    LIMIT = 3
    tide_x = 0
    kite_x = 0
    kite_log = []

    def move_kite():
        global kite_x
        kite_x += tide_x

    def note():
        kite_log.append(kite_x)

    def idle():
        return LIMIT

    while kite_x < LIMIT:
        tide_x = tide_x + 1
        move_kite()
        note()
    print(kite_x)
    """


def test_who_reads_and_writes_what():
    found = {user.name: (user.reads, user.writes) for user in usage(program_of(TEXT)).users}
    assert found["move_kite"] == ({"kite_x", "tide_x"}, {"kite_x"})
    assert found["note"] == ({"kite_log", "kite_x"}, {"kite_log"})
    blocks = {name: marks for name, marks in found.items() if name.startswith("<main>")}
    assert ({"kite_x", "tide_x"}, {"tide_x"}) in blocks.values()
    assert len(blocks) == 3
    assert "idle" not in found


def test_variables_of_one_class_stand_side_by_side_with_its_methods():
    shown = usage(program_of(TEXT), [Group("Kite", ("kite_x", "kite_log"), ("move_kite", "note"))])
    assert shown.variables == ("kite_x", "kite_log", "tide_x")
    names = [user.name for user in shown.users]
    assert abs(names.index("move_kite") - names.index("note")) == 1
