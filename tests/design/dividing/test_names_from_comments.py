"""Names from comments: few words as they are, a sentence's verb and object, or the code's own verb."""

from __future__ import annotations

import pytest

from aedifex.design.dividing.names_from_comments import names_from
from aedifex.languages.python import DIALECT


@pytest.mark.parametrize(
    ("comment", "verb", "names"),
    [
        ("the water turns", "", ["water_turns"]),
        ("border checking", "", ["check_border"]),
        ("Initialize circles", "", ["initialize_circles"]),
        ("draw the old kite now", "", ["draw_old_kite"]),
        ("Calculate the centre of the quay, so that it fits", "", ["calculate_centre", "calculate_centre_quay"]),
        ("Check if the mouse is inside a ring", "", ["check_mouse", "check_mouse_inside_ring"]),
        ("Rendering all of the gulls that fly", "", []),
        ("Renders all gulls that fly by", "", ["render_gulls", "render_gulls_fly"]),
        ("Every second plank will be painted blue", "show", ["show_second_plank"]),
        ("the planks", "show", ["show_planks", "planks"]),
        ("arrivals", "", ["handle_arrivals", "arrivals"]),
        ("Every second plank will be painted blue", "", []),
        ("12 planks", "", []),
        ("bird on the quay", "", ["update_bird"]),
        ("the world goes on", "", ["world_goes_on"]),
        ("so that it does not fall over again in the wind", "", []),
        ("", "show", []),
        ("class", "", ["handle_class"]),
    ],
)
def test_names_of_comments(comment, verb, names):
    assert names_from(comment, verb, DIALECT) == names
