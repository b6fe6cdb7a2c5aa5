"""The turtle of the standard library."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(
    takes_input=words("textinput numinput"),
    draws=words("clear write dot stamp"),
    main_loops=words("mainloop done exitonclick"),
    telling=words("xcor ycor heading towards isdown isvisible"),
    reads_lines=words("textinput numinput"),
    hears_keys=words("onkey onkeypress onkeyrelease"),
    hears_clicks=words("onclick onscreenclick ondrag onrelease exitonclick"),
)
