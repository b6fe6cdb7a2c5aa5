"""Games with pygame, and with what is made after it."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(
    titles=words("set_caption"),
    takes_input=words("event.get event.poll event.wait key.get_pressed mouse.get_pos mouse.get_pressed"),
    draws=words(
        "blit blits fill flip display.update draw.line draw.lines draw.circle draw.rect draw.ellipse draw.polygon "
        "draw.arc draw.aaline draw.aalines"
    ),
    aloof=words("blit blits fill flip update line lines circle rect ellipse polygon arc aaline aalines"),
    placed=words("Rect FRect"),
    unseen=words("render SysFont Font"),
    click_names=words("MOUSEBUTTONDOWN MOUSEBUTTONUP MOUSEMOTION MOUSEWHEEL get_pos"),
)
