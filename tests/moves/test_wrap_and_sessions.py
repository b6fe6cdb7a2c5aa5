"""wrap, name_call, sessions: what is done with a thing of a library has a class, and names there."""

from __future__ import annotations

from textwrap import dedent

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.name_call import NameCalls
from aedifex.moves.sessions import Sessions
from aedifex.moves.wrap import Wrap
from aedifex.source.errors import DesignError, RefusedError
from aedifex.survey.kinds.resources import resource_kinds
from tests.support.database_scripts import write_connection, write_database
from tests.support.helpers import SCRIPT, module_of, moved, printed, program_of
from tests.support.several_files import outcome_of_files

BOATS = """\
import sqlite3

con = sqlite3.connect(":memory:")
con.execute("create table boats (name text, berth integer)")
con.commit()


def add(name, berth):
    con.execute("insert into boats values (?, ?)", (name, berth))
    con.commit()


def show(db):
    for row in db.execute("select * from boats"):
        print(row)
@


add("Heron", 3)
show(con)
con.close()
"""
SCREEN = """\
import curses

taken = 0


def frame(window):
    window.erase()
    window.addstr(0, 0, "QUAY")
    window.refresh()


def draw(window):
    window.addstr(2, 1, "%d taken" % taken)
    window.addstr(3, 1, "q ends")
    window.refresh()


def main(window):
    global taken
    curses.start_color()
    curses.init_pair(1, 1, 2)
    window.clear()
    while True:
        frame(window)
        draw(window)
        if window.getch() == ord("q"):
            break
        taken += 1


curses.wrapper(main)
"""


def wrapped(*lines: str) -> str:
    text = BOATS.replace("@", "\n".join(lines))
    result = moved(text, Wrap(SCRIPT, "con", "Database", "connection", "database"))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_the_object_is_passed_on_and_the_thing_is_used():
    text = wrapped("def count():", "    return con.total_changes, [db for db in [con]]")
    assert 'database = Database(sqlite3.connect(":memory:"))\n' in text and "show(database)\n" in text
    assert "in database.connection.execute(" in text and "[db for db in [database.connection]]" in text


@pytest.mark.parametrize(
    "lines",
    [
        ["con = con"],
        ["def renew():", "    global con", "    con = sqlite3.connect(':memory:')"],
        ["database = 3"],
        ["class Database:", "    pass"],
    ],
)
def test_what_has_no_one_name_is_not_wrapped(lines):
    with pytest.raises(RefusedError):
        wrapped(*lines)


def test_a_call_that_is_not_given_as_much_hands_on_what_it_is_given():
    moves = (
        Wrap(SCRIPT, "con", "Database", "connection", "database"),
        NameCalls(SCRIPT, "Database", "connection", (("execute", "run"), ("commit", "save"))),
    )
    text = BOATS.replace("@", "")
    result = moved(text, *moves)["script.py"]
    assert "    def run(self, query, *given):\n        return self.connection.execute(query, *given)\n" in result
    assert "    def save(self):\n        self.connection.commit()\n" in result
    assert printed(result) == printed(text)


def test_names_are_refused_that_are_taken_or_stand_for_nothing():
    for name in (("commit", "connection"), ("rollback", "take_back")):
        moves = (
            Wrap(SCRIPT, "con", "Database", "connection", "database"),
            NameCalls(SCRIPT, "Database", "connection", (name,)),
        )
        with pytest.raises(RefusedError):
            moved(BOATS.replace("@", ""), *moves)


def test_a_window_that_is_handed_over_becomes_a_screen():
    program = program_of(SCREEN)
    design = propose(program)
    (plan,) = design.kinds
    assert (plan.name, plan.store, plan.held, plan.instances) == ("Screen", "resources", "screen", ["window"])
    assert [method.name for method in plan.methods] == ["set_up", "frame", "write", "show", "read_key"]
    text = build(program, design).program.modules
    main = next(module.source.data.decode() for path, module in text.items() if path == SCRIPT)
    assert "    def main(self, window):\n        screen = Screen(window)\n        screen.set_up()\n" in main
    assert "addstr" not in main and "getch" not in main


CURSOR = """\
import sqlite3

con = sqlite3.connect(":memory:")
pen = con.cursor()
pen.execute("create table boats (name text)")


def add(name):
    pen.execute("insert into boats values (?)", (name,))
    con.commit()
    return pen.lastrowid


def names():
    pen.execute("select name from boats")
    return [row[0] for row in pen.fetchall()]


print(add("Heron"), add("Tern"), names())
con.close()
"""


def test_a_cursor_that_all_share_is_in_the_class_too():
    design = propose(program_of(CURSOR))
    assert [(f.variable, f.name) for f in design.kinds[0].fields] == [("con", "connection"), ("pen", "cursor")]
    again = parse(SCRIPT.with_suffix(".design.toml"), write(design))
    texts = build(program_of(CURSOR), again).program.texts
    database = next(source.data.decode() for path, source in texts.items() if path.name == "database.py")
    assert "self._connection.cursor()" in database and "def add(self, name):" in database
    assert "pen" not in "".join(source.data.decode() for source in texts.values())


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("pen = con.cursor()", "pen = con.cursor(sqlite3.Cursor)"),
        ("pen = con.cursor()", "turn = 1\npen = con.cursor()"),
        ("con.close()", "pen = None\ncon.close()"),
    ],
)
def test_a_cursor_that_is_not_made_so_stays_as_it_is(old, new):
    fields = [field.variable for kind in propose(program_of(CURSOR.replace(old, new))).kinds for field in kind.fields]
    assert "pen" not in fields


def test_a_design_of_resources_can_be_read_again():
    design = propose(program_of(SCREEN))
    again = parse(SCRIPT.with_suffix(".design.toml"), write(design))
    assert again.kinds[0].methods == design.kinds[0].methods or [
        (m.routine, m.name, m.lines, m.values) for m in again.kinds[0].methods
    ] == [(m.routine, m.name, m.lines, m.values) for m in design.kinds[0].methods]
    assert (
        build(program_of(SCREEN), again).program.texts.keys() == build(program_of(SCREEN), design).program.texts.keys()
    )


def test_a_resource_that_is_none_is_told():
    text = write(propose(program_of(SCREEN))).replace(
        'from = "window", name = "window"', 'from = "windo", name = "window"'
    )
    with pytest.raises(DesignError, match="windo"):
        build(program_of(SCREEN), parse(SCRIPT.with_suffix(".design.toml"), text))


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ('fields = [\n  { from = "window", name = "window", start = "argument" },\n]', "fields = []"),
        ('held = "screen"', 'held = "not"'),
        ('name = "write" }', 'name = "not" }'),
    ],
)
def test_a_design_of_resources_is_checked(old, new):
    text = write(propose(program_of(SCREEN)))
    assert old in text
    with pytest.raises(DesignError):
        build(program_of(SCREEN), parse(SCRIPT.with_suffix(".design.toml"), text.replace(old, new)))


def test_few_calls_are_no_resource():
    assert not resource_kinds(module_of("import sqlite3\ncon = sqlite3.connect('x')\ncon.commit()\ncon.close()\n"))


SESSIONS = """\
import sqlite3

FILE = "file:harbour?mode=memory"


def prepare():
    con = sqlite3.connect(FILE)
    con.execute("create table if not exists boats (name text)")
    con.commit()
    con.close()


def add(name):
    con = sqlite3.connect(FILE)
    con.execute("insert into boats values (?)", (name,))
    con.commit()
    con.close()


def names():
    con = sqlite3.connect(FILE)
    found = con.execute("select name from boats").fetchall()
    con.close()
    return found


@
"""


def gathered(*lines: str) -> str:
    move = Sessions(SCRIPT, "Database", "database", "file", ("run", "rows"))
    return moved(SESSIONS.replace("@", "\n".join(lines)), move)["script.py"]


def test_each_sort_of_sessions_is_a_method():
    text = gathered()
    assert "database = Database(FILE)\n\n\ndef prepare():\n    database.run(" in text
    assert 'def names():\n    found = database.rows("select name from boats")\n    return found\n' in text
    assert text.count("sqlite3.connect(") == 2 and text.count("finally:\n            con.close()\n") == 2


@pytest.mark.parametrize(
    "inside",
    [
        'con.execute("delete from boats")\n    # all gone\n    con.commit()',
        'con.execute("delete from boats")\n    print("gone")\n    con.commit()',
        'con.execute("insert into boats values (?)", (name.upper(),))\n    con.commit()',
        'con.execute("delete from boats")\n    con.execute("select 1")\n    con.commit()',
        'con.execute("delete from boats", **{})\n    con.commit()',
        'kept.append(con)\n    con.execute("delete from boats")\n    con.commit()',
    ],
)
def test_a_run_that_does_more_stays_as_it_is(inside):
    own = f"def more(name):\n    con = sqlite3.connect(FILE)\n    {inside}\n    con.close()\n"
    assert own in gathered("kept = []", "", "", own)


def test_what_is_never_closed_stays_as_it_is():
    own = 'def open_for(name):\n    con = sqlite3.connect(FILE)\n    con.execute("select 1")\n    return con\n'
    assert own in gathered(own)


@pytest.mark.parametrize("methods", [("run",), ("run", "run")])
def test_as_many_names_are_needed_as_sorts(methods):
    with pytest.raises(RefusedError, match="2 sorts"):
        moved(SESSIONS.replace("@", ""), Sessions(SCRIPT, "Database", "database", "file", methods))


def test_a_draft_names_them():
    (plan,) = propose(program_of(SESSIONS.replace("@", "prepare()\nadd('Heron')\nprint(names())"))).kinds
    assert (plan.name, plan.store, plan.instances) == ("Database", "sessions", ["database"])
    assert [method.name for method in plan.methods] == ["run", "rows"]


@pytest.mark.parametrize("seed", range(4))
def test_databases_are_asked_the_same(seed):
    ends = (outcome_of_files({"lift.py": write(seed)}) for write in (write_database, write_connection))
    assert all(end == "same, apart" or end.startswith("refused") for end in ends)


def test_the_text_around_is_kept():
    assert dedent(gathered()).startswith("import sqlite3\n\nFILE = ")


ADDING = """\
def more(boat):
    con = sqlite3.connect(FILE)
    con.execute("insert into boats values (?)", (@,))
    con.commit()
    con.close()


"""


@pytest.mark.parametrize(
    ("given", "start", "is_gathered"),
    [
        ('boat["name"]', "prepare()", True),
        ('boat.get("name", "?").upper()', "prepare()", True),
        ("str(int(boat))", "if __name__ == '__main__':\n    prepare()", True),
        ('f"{boat}"', "prepare()", True),
        ('boat["name"]', "", False),  # the file may not be there yet
        ('boat["name"]', "def later():\n    prepare()", False),
        ("boat.pop()", "prepare()", False),
        ("names()[0]", "prepare()", False),
        ("input()", "prepare()", False),
    ],
)
def test_what_is_asked_may_fail_where_the_database_is_there(given, start, is_gathered):
    own = ADDING.replace("@", given)
    assert (own.strip() not in gathered(*own.splitlines(), start)) == is_gathered
