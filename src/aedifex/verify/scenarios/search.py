"""Making scenarios: trying what a script listens to, and keeping what reaches new lines."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from dataclasses import replace
from typing import Any

from aedifex.program.model.inputs import Inputs
from aedifex.source.errors import RunError
from aedifex.verify.compare import Comparison, join_lines
from aedifex.verify.running.lines import LinesRun
from aedifex.verify.running.run import Run
from aedifex.verify.scenarios.improvised import Improvised, joined
from aedifex.verify.scenarios.scenario import TURNS, Event, Scenario
from aedifex.verify.scenarios.typist import Typist
from aedifex.verify.scenarios.visitor import Visitor

_AT_ONCE = 2
_MOST_LINES = 120
_LONG = 150
_FAR = 4
_FAR_ENOUGH = 20_000  # entries of a usual play, of which a long one has as many times more
_MOST_IN_ALL = 400
_STORIES = 2
_BOLD = 0.25
_LEAVES = 0.7
_FAVOURED, _USUAL = 0.4, 0.8
_MOST_EVENTS = 30
_REACH, _WIDEST = 200, 2000
_NEAR = 12
_THINGS = 12
_ENTRIES = 6
_IDLE_ROUNDS = 25


class Search:
    """Tries seeded scenarios on the first of two scripts until the budget is spent or nothing new turns up."""

    def __init__(self, comparison: Comparison, inputs: Inputs, seed: int = 1) -> None:
        self.comparison = comparison
        self.inputs = inputs
        self.chance = random.Random(seed)
        self.typist = Typist(inputs, self.chance)
        self.visitor = Visitor(inputs, self.typist, self.chance)
        self.kept: list[Scenario] = []
        self.idle = 0
        self.goes_on = False
        self.longest_trace = 0
        self.favourite = ""
        self.lines: dict[str, LinesRun] = {}
        self.heard: Mapping[str, Any] = {}

    def find(self, seconds: float, tell: Callable[[str], None] = lambda text: None) -> list[Scenario]:
        """Scenarios that together reach as many lines as could be reached within so many seconds.

        Raises:
            RunError: the script could not be run to its end in any scenario.
        """
        until = time.monotonic() + seconds
        failure = self.try_all([Scenario("auto-1", events=self.visitor.first())])
        is_fixed = self.inputs.is_empty and bool(self.kept) and not self.add_chances()
        while time.monotonic() < until and self.share < 1.0 and not is_fixed and self.idle < _IDLE_ROUNDS:
            before = len(self.kept)
            failure = self.try_all([self.candidate() for _ in range(_AT_ONCE)]) or failure
            self.idle = 0 if len(self.kept) > before else self.idle + 1
            tell(f"{len(self.kept)} scenarios reach {self.share:.0%} of the lines")
        if not self.kept:
            raise failure or RunError("could not be run in any scenario")
        self.add_stories()
        self.add_visits()
        return self.kept

    def add_chances(self) -> bool:
        """Other courses of a program that nothing from outside reaches; whether chance gives it any."""
        first = self.comparison.run_before(self.kept[0]).trace
        for seed in range(1, _STORIES + 1):
            scenario = replace(self.kept[0], seed=seed)
            run = self.comparison.run_before(scenario)
            if run.trace.first_difference(first) is None:
                return False
            join_lines(self.lines, run.lines)
            self.keep(scenario, run)
        return True

    def add_visits(self) -> None:
        """One more scenario with requests in other orders, for an answer depends on what was asked before."""
        if not self.inputs.requests:
            return
        first = self.visitor.first()
        events = (*first, *self.visitor.events(_MOST_EVENTS, len(first) + 1))
        again = tuple(replace(event, turn=len(events) + event.turn) for event in self.visitor.first())
        self.add(Scenario(events=(*events, *again)))

    def add_stories(self) -> None:
        """Some long conversations and long plays, for what is done shows only in what is asked for later."""
        longest = max(self.kept, key=lambda scenario: len(scenario.lines) + len(scenario.events))
        if self.goes_on and self.share < 1.0 and self.longest_trace <= _FAR_ENOUGH:
            self.add_far_plays()
        for number in range(_STORIES if self.inputs.takes_lines or self.hears_events else 0):
            events = longest.events
            if self.hears_events:
                events = self.forms() if self.inputs.fields and not number else self.events(_LONG)
            self.add(replace(longest, seed=number, lines=(), events=events), self.improvised(_LONG))

    def add_far_plays(self) -> None:
        """Plays that go on for long, left to themselves and not: some things come about only then."""
        self.add(Scenario(turns=TURNS * _FAR))
        if self.hears_events:
            far = tuple(replace(event, turn=event.turn * _FAR) for event in self.events(_LONG))
            self.add(Scenario(turns=TURNS * _FAR, events=far))

    def add(self, scenario: Scenario, improvised: Improvised | None = None) -> None:
        """Keep a scenario whatever lines it reaches, if it can be run."""
        with suppress(RunError):
            run = self.comparison.run_before(scenario, improvised)
            self.learn(run)
            join_lines(self.lines, run.lines)
            self.keep(scenario, run)

    def learn(self, run: Run) -> None:
        """Note what was asked of typed lines, and what answers lead to."""
        self.heard = joined(self.heard, run.heard.get("sites", {}))
        self.visitor.learn(run.trace)
        self.goes_on = self.goes_on or bool(run.trace.ending.stopped)
        self.longest_trace = max(self.longest_trace, len(run.trace.entries))

    def keep(self, scenario: Scenario, run: Run) -> None:
        """Keep a scenario with all that was typed in it."""
        lines = tuple(run.heard.get("typed", scenario.lines))
        self.kept.append(replace(scenario, name=f"auto-{len(self.kept) + 1}", lines=lines))

    @property
    def share(self) -> float:
        """The share of all lines that the kept scenarios reach."""
        statements = sum(len(found.statements) for found in self.lines.values())
        return sum(len(found.ran) for found in self.lines.values()) / statements if statements else 0.0

    def try_all(self, scenarios: list[Scenario]) -> RunError | None:
        """Run some scenarios at the same time; keep those that reach new lines. The last failure, if any."""
        failure: RunError | None = None
        with ThreadPoolExecutor(_AT_ONCE) as pool:
            run_before = self.comparison.run_before
            runs = [(scenario, pool.submit(run_before, scenario, self.improvised())) for scenario in scenarios]
            for scenario, future in runs:
                try:
                    self.consider(scenario, future.result())
                except RunError as error:
                    failure = error
        return failure

    def consider(self, scenario: Scenario, run: Run) -> None:
        """Keep a scenario whose run reached a new line."""
        is_new = any(self.is_new(name, found) for name, found in run.lines.items())
        self.learn(run)
        if not run.lines or is_new or not self.kept:
            join_lines(self.lines, run.lines)
            self.keep(scenario, run)

    def is_new(self, name: str, found: LinesRun) -> bool:
        """Whether lines ran that had not run before."""
        return name not in self.lines or bool(found.ran & self.lines[name].missing)

    # -- what to try

    def improvised(self, most: int = 0) -> Improvised | None:
        """What is typed behind a scenario's own lines: so many lines, or some."""
        if not self.inputs.takes_lines:
            return None
        given, chance = self.inputs, self.chance
        return Improvised(
            most or chance.randint(3, _MOST_LINES),
            chance.randrange(1_000_000),
            is_bold=not most and chance.random() < _BOLD,
            leaves=bool(most) or chance.random() < _LEAVES,
            words=given.words,
            choices=given.choices,
            numbers=given.numbers,
            heard=self.heard,
        )

    def candidate(self) -> Scenario:
        """A new scenario, or one that has been kept, changed."""
        base = self.chance.choice(self.kept) if self.kept and self.chance.random() < 0.6 else Scenario()
        arguments = self.some_arguments() if self.inputs.takes_arguments else ()
        lines = base.lines[: self.chance.randint(0, min(len(base.lines), _MOST_IN_ALL))]
        events = base.events
        if self.hears_events:
            events += self.events(self.chance.randint(3, _MOST_EVENTS))
        if self.inputs.requests:
            events += tuple(self.visitor.events(self.chance.randint(3, _MOST_EVENTS), len(events) + 1))
        ordered = tuple(sorted(events, key=lambda event: event.turn))
        return Scenario("auto", self.chance.randint(0, 9), arguments, lines, TURNS, ordered)

    @property
    def hears_events(self) -> bool:
        """Whether the script listens to keys, clicks, or what is done in its windows."""
        given = self.inputs
        return bool(given.keys or given.takes_clicks or given.widgets or given.fields)

    def events(self, count: int) -> tuple[Event, ...]:
        """So many things that are pressed, clicked or filled in, in the order of their turns; one widget most often."""
        self.favourite = self.chance.choice(self.inputs.widgets or ("",))
        return tuple(sorted((self.event() for _ in range(count)), key=lambda event: event.turn))

    def forms(self) -> tuple[Event, ...]:
        """Every field is filled with the script's numbers and those beside them, and something is pressed each time."""
        entries = [str(number + beside) for number in self.inputs.numbers for beside in (-1, 0, 1)]
        entries += [self.typist.entry() for _ in range(_ENTRIES)]
        self.favourite = self.chance.choice(self.inputs.widgets or ("",))
        found: list[Event] = []
        for turn, entry in enumerate(self.chance.sample(entries, min(len(entries), TURNS // 3)), 1):
            found += [
                Event(
                    2 * turn,
                    "fill",
                    self.typist.entry() if field != turn % self.inputs.fields + 1 else entry,
                    field=field,
                )
                for field in range(1, self.inputs.fields + 1)
            ]
            if self.inputs.widgets:
                is_usual = self.chance.random() < _USUAL
                pressed = self.favourite if is_usual else self.chance.choice(self.inputs.widgets)
                found.append(Event(2 * turn + 1, "choose", pressed))
            elif self.inputs.takes_clicks:
                found.append(Event(2 * turn + 1, "touch", self.chance.randint(1, _THINGS)))
        return tuple(found)

    def some_arguments(self) -> tuple[str, ...]:
        """Some arguments for the command line."""
        if self.inputs.options:
            return self.declared_arguments()
        known = self.inputs.arguments
        found: list[str] = []
        for _ in range(self.chance.randint(0, 2)):
            found.append(self.chance.choice(known or ("1", "x")))
            while known and self.chance.random() < 0.5:
                found.append(self.chance.choice([str(self.chance.randint(1, 100)), self.typist.entry()]))
        return tuple(found)

    def declared_arguments(self) -> tuple[str, ...]:
        """What the script asks for, and some of what it allows."""
        found: list[str] = []
        for option in self.inputs.options:
            if option.is_needed or self.chance.random() < 0.4:
                found += [self.chance.choice(option.names)] if option.names else []
                found += [self.chance.choice(option.values)] if option.values else []
        return tuple(found)

    def coordinate(self) -> int:
        """Anywhere in the window, counted from its middle or its corner, or near a number of the script."""
        chance, numbers, kind = self.chance, self.inputs.numbers, self.chance.random()
        if numbers and kind < 0.45:
            return chance.choice(numbers) + chance.randint(-_NEAR, _NEAR)
        if kind < 0.7:
            return chance.randint(-_REACH, _REACH)
        return chance.randint(0, max((number for number in numbers if number <= _WIDEST), default=2 * _REACH))

    def event(self) -> Event:
        """A key or something done with the mouse, in some turn."""
        chance, inputs = self.chance, self.inputs
        turn = chance.randint(1, TURNS * 3 // 4)
        is_on_widgets = bool(inputs.widgets or inputs.fields)
        if is_on_widgets and (chance.random() < 0.8 or not (inputs.keys or inputs.takes_clicks)):
            return self.widget_event(turn)
        if inputs.keys and (not inputs.takes_clicks or chance.random() < 0.6):
            what = chance.choices(["key", "press", "let_go"], [4, 1, 1])[0]
            return Event(turn, what, chance.choice(inputs.keys))
        what = chance.choices(["click", "drag", "release", "touch"], [4, 1, 1, 3])[0]
        if what == "touch":
            return Event(turn, what, chance.randint(1, _THINGS))
        return Event(turn, what, (self.coordinate(), self.coordinate()), chance.choice([1, 1, 1, 1, 2, 3, 4, 5]))

    def widget_event(self, turn: int) -> Event:
        """Something pressed, or typed into a field."""
        chance, inputs = self.chance, self.inputs
        is_alone = not inputs.widgets and not inputs.takes_clicks
        if inputs.fields and (is_alone or chance.random() < 0.4):
            return Event(turn, "fill", self.typist.entry(), field=chance.randint(1, inputs.fields))
        if not inputs.widgets:
            return Event(turn, "touch", chance.randint(1, _THINGS))
        return Event(turn, "choose", self.favourite if chance.random() < _FAVOURED else chance.choice(inputs.widgets))
