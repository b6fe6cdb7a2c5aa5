"""What the windows of the tkinter stand-in share: timers, the loop, and the scenario's events."""

from __future__ import annotations

import heapq
import itertools
import sys

from _aedifex_stage.clock import clock

_REDRAWS_A_TURN = 250


class Event:
    """What a handler is given."""

    def __init__(self, **values: object) -> None:
        self.__dict__.update(
            {"x": 0, "y": 0, "x_root": 0, "y_root": 0, "char": "", "keysym": "", "keycode": 0, "num": 0, "delta": 0}
        )
        self.__dict__.update({"state": 0, "width": 0, "height": 0, "time": 0, "type": "", "widget": None, "serial": 0})
        self.__dict__.update(values)


class App:
    """All that windows share: the queue of timers, the handlers, and the scenario's events."""

    def __init__(self, world: object) -> None:
        self.world = world
        self.timers: list = []
        self.cancelled: set = set()
        self.serial = itertools.count(1)
        self.names = itertools.count(1)
        self.root: object = None
        self.focus: object = None
        self.is_looping = False
        self.has_quit = False
        self.redraws = 0
        self.widgets: list = []

    def record(self, what: str) -> None:
        """Write down what was done to a window."""
        self.world.trace.add("draw", what)

    def after(self, milliseconds: object, call: object, args: tuple) -> str:
        """Queue a timer."""
        number = next(self.serial)
        heapq.heappush(self.timers, (clock.seconds + max(0.0, float(milliseconds)) / 1000, number, call, args))
        return f"after#{number}"

    def cancel(self, name: object) -> None:
        """Take a timer back."""
        self.cancelled.add(str(name))

    def loop(self) -> None:
        """Run events and timers until the program quits or the scenario is over."""
        self.is_looping, self.has_quit = True, False
        while not self.has_quit and not self.world.is_over and self._has_more():
            self.turn()
        self.is_looping = False
        if not self.has_quit:
            self.record("the scenario ends")

    def _has_more(self) -> bool:
        self._drop_cancelled()
        return bool(self.timers) or any(turn > self.world.turn for turn in self.world.events)

    def _drop_cancelled(self) -> None:
        while self.timers and f"after#{self.timers[0][1]}" in self.cancelled:
            heapq.heappop(self.timers)

    def turn(self) -> None:
        """One turn: what the scenario brings, then the next timer."""
        self.redraws = 0
        for event in self.world.next_turn():
            if not self.has_quit:
                self.happen(event)
        self._drop_cancelled()
        if self.timers and not self.has_quit:
            when, _, call, args = heapq.heappop(self.timers)
            clock.wait_until(when)
            self.run(call, *args)

    def update(self, is_turn: bool) -> None:
        """The program lets the window catch up: a turn of its own loop, or a redraw on the way."""
        if self.is_looping:
            return
        if not is_turn:
            self.redraws += 1
            if self.redraws > self.world.turns * _REDRAWS_A_TURN:
                self.world.end("the scenario ends while the program draws")
            return
        if self.world.is_over:
            self.world.stop()
        for event in self.world.next_turn():
            self.happen(event)
        self._drop_cancelled()
        while self.timers and self.timers[0][0] <= clock.seconds:
            _, _, call, args = heapq.heappop(self.timers)
            self.run(call, *args)
            self._drop_cancelled()

    def run(self, call: object, *args: object) -> None:
        """Call a handler; an error in it is reported as tkinter does, and the loop goes on."""
        try:
            call(*args)
        except SystemExit:
            raise
        except Exception as error:
            if self.root is not None:
                self.root.report_callback_exception(type(error), error, error.__traceback__)

    # -- the scenario's events

    def happen(self, event: dict) -> None:
        """Let one event of the scenario reach its handlers."""
        if "key" in event:
            self.key(event["key"], "KeyPress")
            self.key(event["key"], "KeyRelease")
        elif "press" in event:
            self.key(event["press"], "KeyPress")
        elif "let_go" in event:
            self.key(event["let_go"], "KeyRelease")
        elif "type" in event:
            self.type_text(event["type"])
        elif "choose" in event:
            self.choose(event["choose"])
        elif "touch" in event:
            self.touch(event["touch"])
        elif "fill" in event:
            self.fill(event.get("field", 1), event["fill"])
        elif "click" in event:
            self.mouse(event, "click", "ButtonPress")
            self.mouse(event, "click", "ButtonRelease")
        elif "drag" in event:
            self.mouse(event, "drag", "Motion")
        elif "release" in event:
            self.mouse(event, "release", "ButtonRelease")

    def choose(self, text: str) -> None:
        """Press what shows a text, or choose the line of a list that does."""
        for widget in list(self.widgets):
            act = widget.chosen_by(text)
            if act is not None:
                self.run(act)
                return

    def fill(self, number: int, text: str) -> None:
        """Type a text into the field of that number, counted from 1, in place of what is there."""
        fields = [widget for widget in self.widgets if hasattr(widget, "filled")]
        if 0 < number <= len(fields):
            self.run(fields[number - 1].filled, text)

    def key(self, keysym: str, kind: str) -> None:
        char = keysym if len(keysym) == 1 else {"space": " ", "Return": "\r", "Tab": "\t"}.get(keysym, "")
        name = "space" if keysym == " " else keysym
        exact = [f"{kind}-{name}", f"Key-{name}", name] if kind == "KeyPress" else [f"{kind}-{name}"]
        general = [kind, "Key"] if kind == "KeyPress" else [kind]
        event = Event(keysym=name, char=char, keycode=ord(char) if char else 0, type=kind)
        targets = [self.focus] if self.focus is not None else []
        targets += [w for w in self.widgets if w is not self.focus]
        for widget in targets:
            if widget.dispatch(exact, event) or widget.dispatch(general, event):
                continue
        if kind == "KeyPress" and self.focus is not None:
            self.focus.typed(char, name)

    def type_text(self, text: str) -> None:
        for char in text:
            self.key(char, "KeyPress")
            self.key(char, "KeyRelease")

    def mouse(self, event: dict, key: str, kind: str) -> None:
        x, y = event[key]
        self.point(x, -y if "turtle" in sys.modules else y, event.get("button", 1), kind)

    def touch(self, number: int) -> None:
        """Click on the drawn thing of that number, counted from 1, among those that listen, wherever it is."""
        places = [place for widget in self.widgets for place in widget.touchable()]
        if 0 < number <= len(places):
            for kind in ("ButtonPress", "ButtonRelease"):
                self.point(*places[number - 1], 1, kind)

    def point(self, x: float, y: float, button: int, kind: str) -> None:
        """Something done with the mouse at a place of the window."""
        names = {
            "ButtonPress": [f"Button-{button}", f"ButtonPress-{button}", str(button), "Button", "ButtonPress"],
            "ButtonRelease": [f"ButtonRelease-{button}", f"Button{button}-ButtonRelease", "ButtonRelease"],
            "Motion": [f"B{button}-Motion", f"Button{button}-Motion", "Motion"],
        }[kind]
        happening = Event(x=x, y=y, x_root=x, y_root=y, num=button, type=kind)
        for widget in list(self.widgets):
            if not widget.is_gone:
                widget.pointed(names, happening, kind)
