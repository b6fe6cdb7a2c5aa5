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
        lines += ["ALL = 'select * from boats order by 1, 2'", "count = 1", "", ""]
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
                lines += ["    try:", f"        {call}", "    except sqlite3.Error as error:", "        print(error)"]
            else:
                lines += [f"    {call if chance.random() < 0.5 else f'print({call})'}"]
        lines += ["con = sqlite3.connect(FILE)", "print(con.execute(ALL).fetchall(), count)", "con.close()"]
        return "\n".join(lines) + "\n"


def write_database(seed: int) -> str:
    """A script of functions that each have to do with a database."""
    return _Script(seed).write()
