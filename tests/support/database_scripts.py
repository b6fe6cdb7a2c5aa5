"""Scripts written at random that open a database, ask it once and close it, again and again."""

from __future__ import annotations

import random

_GIVEN = (
    '"insert into boats values (?, ?)", (name, berth)',
    '"insert into boats values (?, ?)", (name, 7)',
    '"update boats set berth = ? where name = ?", (berth, name)',
    '"delete from boats where berth > 5"',
    '"""\n        update boats\n        set berth = 2\n    """',
    "CLEAN",
    '"update boats set berth = berth + ?", (count,)',
    '"insert into boats values (?, ?)", (name.upper(), berth)',
    '"insert into boats values (?, ?)", [name, berth]',
    '"insert into boats values (?, ?)", (name, int(berth))',
    'f"delete from boats where berth = {berth}"',
    '"insert into boats values (?, ?)", (KNOWN[name], berth)',
    '"insert into boats values (?, ?)", (KNOWN.get(name, "?"), len(name))',
    '"update boats set berth = ? where name = ?", (int(name), name)',
    '"insert into nowhere values (1)"',
)
_ASKED = (
    '"select name, berth from boats order by name, berth"',
    '"select name, berth from boats where berth = ?", (berth,)',
    '"select count(*), max(berth) from boats"',
    "ALL",
)
_STRANGE = (
    "    # what is done",
    "    print('open')",
    "    count = con.total_changes",
    "    con.execute('select 1')",
    "    con.row_factory = None",
    "    keep = con",
)


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.strange = self.chance.choice([0.0, 0.0, 0.15])
        self.has_cursor = self.chance.random() < 0.5

    def session(self, number: int) -> list[str]:
        chance = self.chance
        asks = chance.random() < 0.4
        cursor = "cur" if self.has_cursor and chance.random() < 0.9 else "con"
        opened = chance.choice(["FILE"] * 8 + ["'other.db'"])
        lines = [f"    con = sqlite3.connect({opened})", *(["    cur = con.cursor()"] if cursor == "cur" else [])]
        given = chance.choice(_ASKED if asks else _GIVEN)
        answer = chance.choice(["rows", "found", f"found{number}"])
        fetch = chance.choice(["fetchall", "fetchone"])
        if asks and chance.random() < 0.5:
            lines += [f"    {answer} = {cursor}.execute({given}).{fetch}()"]
        else:
            lines += [f"    {cursor}.execute({given})", *([f"    {answer} = {cursor}.{fetch}()"] if asks else [])]
        if not asks and chance.random() < 0.9:
            lines.append("    con.commit()")
        if not asks and chance.random() < 0.15:
            lines.append("    last = " + cursor + (".lastrowid" if cursor == "cur" else ".total_changes"))
        if chance.random() < self.strange:
            lines.insert(chance.randint(1, len(lines)), chance.choice(_STRANGE))
        if chance.random() < 0.97:
            lines.append("    con.close()")
        lines += [f"    print({number}, {answer})", f"    return {answer}"] if asks else ["    return berth"]
        if chance.random() < 0.2:
            return [f"    if berth > {chance.randint(0, 4)}:", *(f"    {line}" for line in lines), "    return 0"]
        return lines

    def write(self) -> str:
        chance = self.chance
        lines = ["import sqlite3", ""]
        lines += ["FILE = 'boats.db'", "CLEAN = 'delete from boats where berth = 3'"]
        lines += ["ALL = 'select * from boats order by 1, 2'", "count = 1"]
        lines += ["KNOWN = {'heron': 'Heron', 'gull': 'Gull'}", "", ""]
        lines += ["def prepare():", "    con = sqlite3.connect(FILE)"]
        lines += ["    con.execute('drop table if exists boats')"] if chance.random() < 0.2 else []
        lines += ["    con.execute('create table if not exists boats (name text, berth integer)')"]
        lines += ["    con.commit()", "    con.close()", "", ""]
        names = [f"deed{number}" for number in range(chance.randint(3, 6))]
        for number, name in enumerate(names):
            lines += [f"def {name}(name, berth):", *self.session(number), "", ""]
        lines += ["prepare()", "for turn in range(3):", "    count += turn"]
        for name in names:
            call = f"{name}({chance.choice(['heron', 'gull', 'crane'])!r}, {chance.choice(['turn', 'turn + 3', '2'])})"
            if chance.random() < 0.3:
                lines += [
                    "    try:",
                    f"        {call}",
                    "    except (sqlite3.Error, LookupError, ValueError) as error:",
                    "        print(error)",
                ]
            else:
                lines += [f"    {call if chance.random() < 0.5 else f'print({call})'}"]
        lines += ["con = sqlite3.connect(FILE)", "print(con.execute(ALL).fetchall(), count)", "con.close()"]
        return "\n".join(lines) + "\n"


def write_database(seed: int) -> str:
    """A script of functions that each have to do with a database."""
    return _Script(seed).write()


_CALLS = (
    "{c}.execute('insert into boats values (?, ?)', (name, {n}))",
    "{c}.execute('update boats set berth = berth + {n}')",
    "{c}.execute('delete from boats where berth > ?', ({n} + 4,))",
    "rows = {c}.execute('select * from boats order by 1, 2').fetchall()\nprint(len(rows), rows[:2])",
    "{c}.commit()",
    "{c}.commit()",
    "print({c}.total_changes)",
    "for row in {c}.execute('select name from boats where berth = ?', ({n},)):\n    print(row)",
    "{c}.executemany('insert into boats values (?, ?)', [(name, {n}), ('swan', 1)])",
    "cur = {c}.cursor()\ncur.execute('select max(berth) from boats')\nprint(cur.fetchone())",
    "count = {c}.execute('select count(*) from boats').fetchone()[0]\nprint(count)",
)
_STRANGE_USES = (
    "print({c} is con)",
    "kept = [{c}]\nkept[0].commit()",
    "with {c}:\n    {c}.execute('update boats set berth = 1')",
    "later = lambda: {c}.commit()\nlater()",
    "def inner():\n    {c}.commit()\n    return {c}\ninner().commit()",
    "other = {c}\nother.commit()",
    "print(type({c}).__name__)",
    "{c}.execute(*['update boats set berth = 2'])",
    "{c}.row_factory = None",
    "print(isinstance({c}, sqlite3.Connection))",
)


_CURSOR_CALLS = (
    "pen.execute('insert into boats values (?, ?)', (name, {n}))\nprint(pen.lastrowid)",
    "pen.execute('select * from boats order by 1, 2')\nprint(pen.fetchall()[:2])",
    "pen.execute('select count(*) from boats')\nrow = pen.fetchone()\nprint(row[0])",
    "pen.execute('update boats set berth = berth + {n}')\n{c}.commit()\nprint(pen.rowcount)",
    "pen.execute('delete from boats where berth > ?', ({n} + 4,))\n{c}.commit()",
    "pen.executemany('insert into boats values (?, ?)', [(name, {n}), ('swan', 1)])",
    "print([d[0] for d in pen.execute('select * from boats').description], pen.connection is {c})",
)
_STRANGE_CURSORS = (
    "keep = pen\nkeep.execute('select 1')\nprint(pen.fetchone())",
    "print((lambda pen: pen.execute('select 2').fetchone())(pen))",
    "pen.arraysize = {n}\nprint(pen.arraysize)",
    "print(type(pen).__name__, isinstance(pen, sqlite3.Cursor))",
    "def inner(pen=None):\n    pen = {c}.cursor()\n    print(pen.execute('select 3').fetchone())\ninner()",
)


def write_connection(seed: int) -> str:
    """A script whose functions call one connection, which is a variable of the module or handed to them.

    In some they share a cursor, too.
    """
    chance = random.Random(seed)
    strange = chance.choice([0.0, 0.0, 0.1, 0.3])
    is_handed = chance.random() < 0.5
    has_cursor = chance.random() < 0.4
    lines = ["import sqlite3", "", "total = 0", "con = sqlite3.connect(':memory:')"]
    lines += ["total += 1"] if has_cursor and chance.random() < strange else []
    lines += [chance.choice(["pen = con.cursor()"] * 4 + ["pen = con.cursor()  # to ask with"])] if has_cursor else []
    lines += ["con.execute('create table boats (name text, berth integer)')", "", ""]
    names = [f"deed{number}" for number in range(chance.randint(2, 5))]
    for place, name in enumerate(names):
        handed = "db" if is_handed and chance.random() < 0.8 else "con"
        lines.append(f"def {name}({'db, ' if handed == 'db' else ''}name):")
        lines += ["    global total", "    total += 1"] if chance.random() < 0.4 else []
        for _ in range(chance.randint(1, 4)):
            is_strange = chance.random() < strange
            known = _STRANGE_USES if is_strange else _CALLS
            if has_cursor and chance.random() < 0.6:
                known = _STRANGE_CURSORS if is_strange else _CURSOR_CALLS
            text = chance.choice(known).replace("{c}", handed).replace("{n}", str(chance.randint(1, 5)))
            lines += [f"    {line}" for line in text.split("\n")]
        if place and chance.random() < 0.4:
            earlier = chance.choice(names[:place])
            lines.append(f"    {earlier}({handed + ', ' if earlier in _handed(lines) else ''}'tern')")
        lines += ["", ""]
    handed_names = _handed(lines)
    lines.append("for turn in range(3):")
    lines += ["    pen = con.cursor()"] if has_cursor and chance.random() < strange else []
    for name in names:
        given = "con, " if name in handed_names else ""
        lines.append(f"    {name}({given}'heron' if turn else 'gull')")
    lines += ["    con.commit()", "print(con.execute('select * from boats').fetchall(), total)", "con.close()"]
    return "\n".join(lines) + "\n"


def _handed(lines: list[str]) -> set[str]:
    """The functions that are handed the connection."""
    return {line[4 : line.index("(")] for line in lines if line.startswith("def ") and "(db, " in line}
