"""Pictures: what stands in them as text, and that the same gives the same."""

from __future__ import annotations

import re

import pytest

from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.design.picture import class_picture
from aedifex.report.class_drawing import KINDS, draw_classes
from aedifex.report.usage_groups import groups_of
from aedifex.report.usage_map import draw_usage_map
from aedifex.survey.usage import usage
from tests.moves.test_base import SKY
from tests.moves.test_part import HUT
from tests.support.helpers import program_of

TEXT = """
    wind_speed, wind_angle = 1, 0
    kite_x, kite_y = 0, 0

    def blow():
        global wind_speed, wind_angle
        wind_speed, wind_angle = wind_angle + 1, wind_speed

    def move_kite():
        global kite_x, kite_y
        kite_x, kite_y = kite_x + wind_speed, kite_x

    while kite_x < 9:
        blow()
        move_kite()
        print(kite_x, kite_y)
    """


@pytest.fixture(scope="module")
def program():
    return prepared(program_of(TEXT))


@pytest.fixture(scope="module")
def design(program):
    return propose(program)


def test_the_usage_map_names_everything_and_frames_the_classes(program, design):
    draw = [draw_usage_map(usage(program, groups_of(design)), "quay.py", "svg") for _ in range(2)]
    assert draw[0] == draw[1]
    texts = set(re.findall(r">([^<>]+)</text>", draw[0].decode()))
    assert {"wind_speed", "kite_x", "blow", "move_kite", "Wind", "Kite", "quay.py", "reads", "writes"} <= texts


def test_a_picture_in_pixels_is_one(program, design):
    assert draw_usage_map(usage(program), "quay.py", "png").startswith(b"\x89PNG")
    assert draw_classes(class_picture(program, design), "png").startswith(b"\x89PNG")


@pytest.mark.parametrize("kind", sorted(KINDS - {"png"}))
def test_every_form_shows_classes_members_and_links(program, design, kind):
    picture = class_picture(program, design)
    text = draw_classes(picture, kind).decode()
    for word in ("Wind", "Kite", "Script", "speed", "angle", "blow()", "move()", "run()"):
        assert word in text
    assert text == draw_classes(picture, kind).decode()
    (passed,) = [link for link in picture.links if link.label]
    assert (passed.source, passed.target, passed.label) == ("Wind", "Kite", "speed")


def test_plain_text_is_a_drawing_of_boxes(program, design):
    lines = draw_classes(class_picture(program, design), "txt").decode().splitlines()
    assert lines[2] == lines[4] == "+-------------+"
    assert "Wind -- speed --> Kite" in lines
    assert all(len(line) <= 100 for line in lines)


def test_a_script_without_state_has_a_picture_that_says_so(recwarn):
    text = draw_usage_map(usage(program_of("print(1)\n")), "quay.py", "svg").decode()
    assert "no state that changes" in text
    assert not recwarn.list


def test_a_class_from_which_others_come_is_drawn_with_what_they_share():
    program = prepared(program_of(SKY), design := propose(program_of(SKY)))
    picture = class_picture(program, design)
    body = next(box for box in picture.after if box.is_base)
    assert (body.name, body.fields, body.methods) == ("Body", ("x", "y"), ("move()", "is_over()"))
    assert "Rocket --|> Body : comes from" in draw_classes(picture, "mmd").decode()
    assert "Rocket, from Body, several" in draw_classes(picture, "txt").decode()


def test_parts_are_drawn_without_a_line_from_the_owner():
    program = prepared(program_of(HUT), design := propose(program_of(HUT)))
    picture = class_picture(program, design)
    text = draw_classes(picture, "txt").decode()
    assert "Gauge, part of Hut" in text and "makes --> Gauge" not in text
    assert draw_classes(picture, "png").startswith(b"\x89PNG")
