"""A big class that does several jobs is divided, with headings or without; what others call stays callable."""

from __future__ import annotations

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from tests.support.helpers import program_of
from tests.support.scripts import outcome

OFFICE = """\
class Office:
    def __init__(self):
        self.carts = []
        self.crew = ["Ida"]
        self.weather = "calm"
        self.fuel = 50
        self.money = 9
        self.trips = 0

    def add_cart(self, weight):
        self.carts.append(weight)

    def cart_weight(self):
        return sum(self.carts)

    def clear_carts(self):
        self.carts = []

    def hire(self, name):
        self.crew.append(name)

    def fire(self, name):
        self.crew.remove(name)

    def set_weather(self, weather):
        self.weather = weather
        print("weather", weather)

    def is_stormy(self):
        return self.weather == "storm"

    def burn(self, amount):
        self.fuel -= amount

    def refuel(self, amount):
        if amount <= self.money:
            self.money -= amount
            self.fuel += amount

    def cross(self):
        if self.is_stormy() or len(self.crew) < 2:
            return False
        self.burn(7)
        self.money += self.cart_weight()
        self.clear_carts()
        self.trips += 1
        return True


office = Office()
for day, weather in enumerate(["calm", "storm", "calm"]):
    office.set_weather(weather)
    office.add_cart(day + 2)
    office.hire("Jon")
    print(day, office.cross(), office.money, office.fuel, office.crew, office.trips)
    office.refuel(3)
office.fire("Jon")
print(office.crew)
"""


def test_jobs_of_a_big_class_become_classes():
    program = program_of(OFFICE)
    design = propose(program)
    made = "".join(module.source.data.decode() for module in build(program, design).program.modules.values())
    assert {"Carts", "Crew", "Weather"} <= {part.name for part in design.parts}
    assert all("use it and nothing else" in part.why for part in design.parts)
    assert "        self._items.append(weight)\n" in made and "len(self.crew.items) < 2" in made


def test_it_does_the_same():
    assert outcome(OFFICE) == "same"


def test_a_small_class_stays_whole():
    small = OFFICE.replace("        self.fuel = 50\n", "").replace("self.fuel", "self.trips")
    assert propose(program_of(small)).parts == []
