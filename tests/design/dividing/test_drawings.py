"""What draws one thing becomes a method of it."""

from __future__ import annotations

from textwrap import dedent

from aedifex.construction.build import build
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from tests.support.helpers import program_of

QUAY = """
    import pygame

    screen = pygame.display.set_mode((300, 200))
    kite_x = 10
    kite_y = 50
    kite_tail = 3
    wind = 0


    def blow():
        global kite_x, kite_y
        kite_x += wind
        kite_y -= 1


    while wind < 9:
        wind += 1
        blow()
        screen.fill((0, 0, 0))
        pygame.draw.line(screen, (9, 9, 9), (0, 190), (300, 190))
        middle = kite_x + 5
        pygame.draw.circle(screen, (200, 0, 0), (middle, kite_y), 6)
        for number in range(3):
            pygame.draw.circle(screen, (0, 200, 0), (number, number), 2)
        pygame.draw.circle(screen, (200, 0, 0), (middle, kite_y), 6)
        if kite_tail > 2:
            pygame.draw.line(screen, (200, 0, 0), (kite_x, kite_y), (kite_x, kite_y + kite_tail))
            pygame.draw.line(screen, (200, 0, 0), (kite_x, kite_y), (kite_x - 3, kite_y + kite_tail))
        pygame.display.flip()
    print(kite_x, kite_y)
    """


def test_the_thing_draws_itself_and_what_it_is_drawn_on_is_passed():
    program = program_of(dedent(QUAY))
    built = build(program, propose(prepared(program))).program
    texts = {path.name: module.source.data.decode() for path, module in built.modules.items()}
    kite, script = texts["kite.py"], texts["script.py"]
    assert (
        "    def draw(self, middle, screen):\n        pygame.draw.circle(screen, (200, 0, 0), (middle, self.y), 6)\n"
        in kite
    )
    assert "self.kite.draw(middle, self.screen)" in script
    assert script.count("pygame.draw.circle") == 1  # that is a star
