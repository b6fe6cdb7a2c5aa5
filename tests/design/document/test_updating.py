from __future__ import annotations

from textwrap import dedent

from aedifex.design.document.check import check_design
from aedifex.design.document.reading import read
from aedifex.design.document.updating import update
from aedifex.design.document.writing import write
from aedifex.design.drafting.draft import draft
from tests.support.helpers import program_of

TEXT = """
    ferry_x, ferry_speed = 0, 1
    tide_x = 0
    tide_turns = 0

    def move_ferry():
        global ferry_x, ferry_speed
        ferry_x += ferry_speed
        ferry_speed = 2

    def turn_tide():
        global tide_x, tide_turns
        tide_x += 1
        tide_turns += tide_x

    while tide_x < 9:
        move_ferry()
        turn_tide()
    print(ferry_x, tide_turns)
    """
EDITED = ('name = "Ferry"', 'name = "Boat"  # it is a boat'), ('name = "speed"', 'name = "pace"')


def renewed(tmp_path, change):
    """Draft, edit, change the script, draft again: what was done, and the design that came of it."""
    text = write(draft(program_of(TEXT)))
    for old, new in EDITED:
        assert old in text
        text = text.replace(old, new)
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    program = program_of(change(dedent(TEXT)))
    done = update(text, read(path), draft(program))
    path.write_text(done.text)
    design = read(path)
    check_design(design, program.main)
    return done, design


def test_nothing_changes_while_the_script_is_the_same(tmp_path):
    text = write(draft(program_of(TEXT))).replace("Ferry", "Boat")
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    assert update(text, read(path), draft(program_of(TEXT))).text == text


def test_names_and_remarks_of_the_user_stay(tmp_path):
    done, design = renewed(tmp_path, lambda text: text.replace("tide_x < 9", "tide_x < 7"))
    assert (done.added, done.gone) == ([], [])
    assert "# it is a boat" in done.text
    assert [plan.name for plan in design.classes] == ["Boat", "Tide"]
    assert [field.name for field in design.classes[0].fields] == ["x", "pace"]


def test_what_is_gone_goes_and_what_is_new_comes(tmp_path):
    def change(text):
        text = text.replace("tide_turns", "tide_count").replace("def turn_tide", "def rise_tide")
        return text.replace("    turn_tide()", "    rise_tide()")

    done, design = renewed(tmp_path, change)
    assert set(done.gone) == {"tide_turns", "turn_tide"}
    tide = design.classes[1]
    assert [field.variable for field in tide.fields] == ["tide_x", "tide_count"]
    assert [method.routine for method in tide.methods] == ["rise_tide"]


def test_a_class_of_new_things_is_added_and_one_of_gone_things_goes(tmp_path):
    done, design = renewed(tmp_path, lambda text: text.replace("tide", "kite"))
    assert "class Tide" in done.gone
    assert "class Kite" in done.added
    assert [plan.name for plan in design.classes] == ["Boat", "Kite"]


def test_what_the_user_gave_to_the_owner_stays_there(tmp_path):
    text = write(draft(program_of(TEXT)))
    line = next(line for line in text.splitlines() if 'from = "tide_turns"' in line)
    text = text.replace(line + "\n", "").replace('name = "Script"', 'name = "Script"\nkeeps = ["tide_turns"]')
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    assert update(text, read(path), draft(program_of(TEXT.replace("< 9", "< 7")))).added == []
