"""The windows of the standard library."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(
    draws=words("create_line create_oval create_rectangle create_text itemconfig coords"),
    main_loops=words("mainloop"),
    reads_lines=words("askstring askinteger askfloat"),
    hears_keys=words("bind bind_all"),
    titles=words("title"),
    makes_widgets=words(
        "Button Canvas Checkbutton Combobox Entry Frame Label LabelFrame Labelframe Listbox Menu Menubutton Message "
        "Notebook OptionMenu PanedWindow Progressbar Radiobutton Scale Scrollbar Spinbox Text Treeview"
    ),
)
