"""Long code becomes a list of calls; small things stay as they are."""

from __future__ import annotations

import re
from textwrap import dedent

from aedifex.construction.build import build
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from tests.support.helpers import program_of
from tests.support.scripts import outcome

LOOP = """
    import random

    ferry_x, ferry_speed = 0, 0
    ferry_load = []
    money = 5
    turn = 0


    def move_ferry():
        global ferry_x
        ferry_x += ferry_speed


    def show():
        print(turn, ferry_x, ferry_load, money)


    print("open")
    while True:
        turn += 1
        try:
            words = input("> ").split()
        except EOFError:
            break
        if not words:
            continue
        command = words[0]
        if command == "quit":
            break
        elif command == "left":
            ferry_speed = -1
        elif command == "right":
            ferry_speed = len(words)
        elif command == "empty":
            ferry_load.clear()
            ferry_speed = 0
        elif command == "look":
            show()
            continue
        else:
            print("what is", command)
            continue
        move_ferry()
        if random.random() < 0.1:
            money -= 1
        show()
    print("closed", money)
    """


def drafted(text):
    return propose(prepared(program_of(text)))


def built(text):
    program = program_of(text)
    return build(program, propose(prepared(program))).program


def test_a_long_turn_becomes_methods_of_the_owner():
    names = [method.name for method in drafted(LOOP).methods]
    assert names == ["handle_command"]
    longer = LOOP.replace("        turn += 1\n", "        turn += 1\n" + "        money += turn % 2\n" * 14)
    assert [method.name for method in drafted(longer).methods] == ["handle_command", "update"]


def test_commands_become_actions_of_what_they_drive():
    (ferry,) = drafted(LOOP).classes
    actions = [method.name for method in ferry.methods if method.lines is not None]
    assert actions == ["go_left", "go_right"]


def test_the_owner_takes_streams_where_it_does_all_the_talking():
    assert drafted(LOOP).streams
    assert not drafted(
        dedent(LOOP).replace("ferry_x += ferry_speed", "ferry_x += ferry_speed\n    print('splash')")
    ).streams


def test_the_loop_is_a_short_list_of_calls():
    text = built(LOOP).main.source.data.decode()
    run = text[text.index("    def run(self)") : text.index("\n\ndef main")]
    left, acted, went_on = (run.index(text) for text in ("command == ", "self.handle_command(", "self.ferry.move()"))
    assert left < acted < went_on
    assert "            if not self.handle_command(words, command):\n                continue\n" in run
    assert len(run.splitlines()) < 25
    assert "            self.ferry.go_right(words)\n" in text


def test_a_short_loop_stays_as_it_is():
    text = "n = 0\nstep = 1\ndef f():\n    global n\n    n += step\nwhile n < 4:\n    f()\n    print(n)\n"
    assert drafted(text).methods == []


EVENTS = """
    import random

    PRESS, DROP, QUIT_ALL = 1, 2, 3
    planks = []
    count = 0

    print("the quay opens")

    # Lay the planks of the quay, one by one
    size = random.randint(3, 5)
    for number in range(size):
        plank = [number, number * 2]
        plank.append(0)
        planks.append(plank)
    print(len(planks), "planks")

    # open the gates
    gates = {}
    gates["north"] = 1
    gates["south"] = 2
    gates["east"] = 3
    gates["west"] = 4
    gates["river"] = 5
    gates["sky"] = 6
    print(sorted(gates))
    print(len(gates))


    def show():
        print(count, planks, gates)


    show()
    # a row of bells
    bells = []
    for number in range(4):
        bells.append(number)
        bells.append(number * 2)
    print("bells", bells)

    # the first gust
    gust = random.randint(1, 3)
    for bell in bells:
        gust += bell
        if gust > 9:
            gust -= 9
    print("gust", gust)
    print("so it begins")
    print("with", len(bells), "bells")
    print("and", len(planks), "planks")
    print("north of", gates)
    print("where the gulls are")
    print("and the kites")

    while count < 9:
        count += 1
        for event in [(PRESS, count), (DROP, 2), (QUIT_ALL, 3)]:
            kind, value = event
            if kind == PRESS:
                print("press", value)
                planks[0][2] += value
                planks[1][2] += value
                print("pressed")
                print(planks[0])
                print(planks[1])
                gust += 1
            elif kind == DROP:
                print("drop", value)
                gust -= 1
                planks[2][2] -= value
                print(planks[2])
                print("dropped")
                show()
                print(bells[0])
            elif kind == QUIT_ALL:
                print("quit")
                bells.append(value)
                if len(bells) > 12:
                    bells.pop()
                    print("too many bells")
                print("stays")
                show()
        print(gust)
    print("closed", count)
    for plank in planks:
        print(plank)
    print(gates, bells)
    if gust > 3:
        print("a windy day")
    """


def test_events_things_set_up_and_the_end_get_methods():
    program = prepared(program_of(dedent(EVENTS)))
    design = propose(program)
    names = {method.name for plan in [design, *design.classes] for method in plan.methods}
    assert {"handle_press", "update_event", "finish"} <= names and "take_turn" not in names
    assert outcome(dedent(EVENTS)) == "same"


def test_what_set_up_code_makes_comes_back_to_the_constructor():
    program = prepared(program_of(dedent(EVENTS)))
    built = build(program, propose(program)).program.main.source.data.decode()
    assert "        self.bells = " in built and "global" not in built
    assert "for plank in " in built and re.search(r"self\.plank\b", built) is None


PICTURED = """
    import pygame

    screen = pygame.display.set_mode((300, 200))
    font = pygame.font.Font(None, 20)
    clock = pygame.time.Clock()
    drops = []
    caught = 0
    wait = 0
    x = 100
    running = True


    def let_fall():
        drops.append([wait * 7 % 300, 0])


    while running:
        for event in pygame.event.get():
            if event.type == pygame.QUIT:
                running = False
            if event.type == pygame.KEYDOWN and event.key == pygame.K_SPACE:
                let_fall()
        keys = pygame.key.get_pressed()
        if keys[pygame.K_LEFT]:
            x -= 4
        if keys[pygame.K_RIGHT]:
            x += 4

        wait += 1
        if wait > 30:
            wait = 0
            let_fall()

        for drop in drops[:]:
            drop[1] += 3
            if drop[1] > 180:
                drops.remove(drop)
                if x < drop[0] < x + 40:
                    caught += 1

        screen.fill((0, 0, 90))
        for drop in drops:
            pygame.draw.circle(screen, (200, 200, 250), (drop[0], drop[1]), 4)
        text = font.render(str(caught), True, (255, 255, 255))
        screen.blit(text, (5, 5))
        pygame.display.flip()
        clock.tick(30)
    """


def test_a_turn_is_told_by_its_paragraphs():
    code = built(PICTURED).main.source.data.decode()
    run = code.partition("def run(self):")[2].partition("\ndef ")[0]
    told = re.findall(r"self\.(\w+)\(|(pygame\.key\.get_pressed)", run)
    assert [one or other for one, other in told] == [
        *("take_input", "pygame.key.get_pressed", "handle_keys", "let_fall", "update_drops", "draw_all"),
    ]
    assert "text = self.font.render" in code.partition("def draw_all(self):")[2].partition("\n    def ")[0]


def test_what_each_of_several_is_asked_has_its_name():
    text = """
    teams = [["Gulls", 0], ["Otters", 0]]
    asked, missed = 0, 0
    while asked < 40:
        print("round", asked)
        for team in teams:
            asked += 1
            answer = input(team[0] + "? ")
            if answer == "bow":
                team[1] += 2
                print("right")
            elif answer:
                team[1] -= 1
                missed += 1
                print("wrong")
            else:
                print("nothing said")
        if asked > 6:
            print("soon over")
        if asked > 7:
            print("nearly")
    print([team[1] for team in teams], missed)
    """
    assert "for team in self.teams:\n                self.ask_team(team)\n" in built(text).main.source.data.decode()
