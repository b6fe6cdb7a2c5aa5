"""What is tried at the borders of conditions."""

from __future__ import annotations

from aedifex.languages.python.borders import borders_of

GAUGE = """
FULL = 3 * 4
DRY = -1


class Gauge:
    def fill(self, rain):
        if rain > 2 and self.place == "quay":
            self.level = min(self.level + rain, FULL)
        while self.is_open:
            self.lid.weight -= 1
        if self.lid.weight == DRY:
            return 7

    def show(self):
        print(self.level)
"""


def test_values_that_are_compared_with_and_those_beside_them_are_tried():
    tried = borders_of(GAUGE)
    assert [*tried] == ["Gauge.fill"]
    found = tried["Gauge.fill"]
    assert [each["rain"] for each in found if [*each] == ["rain"]] == ["2", "1", "3", "12", "11", "13"]
    assert {"rain": "2", ".place": "'quay'"} in found
    assert [each[".level"] for each in found if ".level" in each] == ["12", "11", "13"]
    assert [each[".is_open"] for each in found if ".is_open" in each] == ["True", "False", "0", "1"]
    assert [each[".lid.weight"] for each in found if ".lid.weight" in each] == ["-1", "-2", "0"]


def test_what_is_computed_of_constants_is_one_value():
    text = "class Tide:\n    def turn(self, hour):\n        return hour % 24 == 5 - 2 * 2\n"
    assert [each["hour"] for each in borders_of(text)["Tide.turn"]] == ["24", "23", "25", "1", "0", "2"]
