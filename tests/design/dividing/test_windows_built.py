"""What puts a window together becomes a method, and what fills its frames others."""

from __future__ import annotations

import re
from textwrap import dedent

from aedifex.construction.build import build
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from tests.support.helpers import program_of

WINDOW = """
    import tkinter as tk

    root = tk.Tk()
    caught = 0


    def rain():
        global caught
        caught += int(field.get())
        shown.config(text=str(caught))


    {more}
    top = tk.Frame(root)
    top.pack()
    tk.Label(top, text="Millimetres").pack()
    field = tk.Entry(top)
    field.pack()
    tk.Button(top, text="Rain", command=rain).pack()
    tk.Button(top, text="Clear", command=lambda: [field.delete(0, "end"), shown.config(text="")]).pack()
    tk.Button(top, text="+", command=lambda: field.insert("end", "1")).pack()
    shown = tk.Label(root)
    shown.pack()
    root.bind("<Return>", lambda event: rain())
    root.mainloop()
    print(caught)
    """


def built(more: str = "") -> dict[str, str]:
    """The owner's methods, by name."""
    program = program_of(dedent(WINDOW).replace("{more}", more))
    text = build(program, propose(prepared(program))).program.main.source.data.decode()
    found = re.findall(r"    def (\w+)\(.*?\):\n(.*?)(?=\n    def |\n\n\n)", text, re.DOTALL)
    return {name: body for name, body in found}


def test_the_constructor_tells_how_it_is_built():
    methods = built()
    assert methods["__init__"].splitlines()[-2:] == [
        "        self.build_window()",
        '        self.root.bind("<Return>", self.on_return)',
    ]
    assert methods["build_window"].strip().endswith("self.shown.pack()")
    assert "self.field = tk.Entry(top)" in methods["build_window"]


def test_handlers_are_named_after_what_is_beside_them():
    methods = built()
    assert "lambda" not in "".join(methods.values())
    assert methods["on_clear"].split("\n") == [
        '        self.field.delete(0, "end")',
        '        self.shown.config(text="")',
        "",
    ]
    assert "return self.field.insert" in methods["on_plus"]


def test_frames_of_a_long_window_are_filled_by_methods():
    more = "\n".join(f"tk.Label(root, text='{number}').pack()" for number in range(16))
    methods = built(more)
    assert "top = tk.Frame(self.root)" in methods["build_top"]
    assert "        self.build_top()\n" in methods["build_window"]
