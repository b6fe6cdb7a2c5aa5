"""The pygame recorder: the real library on its headless drivers, with the scenario's events and the virtual clock."""

from __future__ import annotations

import hashlib
import os

from _aedifex_stage.clock import clock
from _aedifex_stage.double import shown

_GRACE = 3
_WHEEL = {4: 1, 5: -1}
"""The buttons that turning the wheel up and down counts as, and by how much it turns."""
_MUSIC_LASTS = 2.0

os.environ["SDL_VIDEODRIVER"] = "dummy"
os.environ["SDL_AUDIODRIVER"] = "dummy"
os.environ["PYGAME_HIDE_SUPPORT_PROMPT"] = "1"


def install(pygame: object, world: object) -> None:
    """Change the loaded library where it meets the outside world."""
    recorder = Recorder(pygame, world)
    recorder.watch_calls()
    recorder.watch_display()
    recorder.script_time()
    recorder.script_input()
    recorder.name_sounds()


_CALLS = {
    "": ("init", "quit"),
    "display": ("init", "quit", "set_mode", "set_icon", "set_caption", "toggle_fullscreen", "iconify"),
    "key": ("set_repeat", "start_text_input", "stop_text_input"),
    "mouse": ("set_visible", "set_cursor", "set_pos"),
    "event": ("set_allowed", "set_blocked", "set_grab", "clear"),
    "mixer": ("init", "quit", "pre_init", "set_num_channels"),
    "font": ("init", "quit"),
}
"""Calls that set up the outside world: they are written down as they are made."""

_ONLY_SHOWN = frozenset({"mouse.set_cursor"})
"""Calls that the headless driver cannot do, and that nothing else depends on."""


_ANSWERS = (("event", "get"), ("key", "get_pressed"), ("mouse", "get_pos"), ("mouse", "get_pressed"))


class Recorder:
    """Counts turns by the display's flips and updates, and brings each turn's events."""

    def __init__(self, pygame: object, world: object) -> None:
        self.pygame = pygame
        self.world = world
        self.held: set[int] = set()
        self.pointer = (0, 0)
        self.buttons = [False, False, False]
        self.let_go: list[tuple] = []
        self.timers: dict[int, list] = {}
        self.waits = 0
        self.music_until = 0.0
        self.music_plays = False
        self.music_ends_with: int | None = None

    def watch_calls(self) -> None:
        for part, names in _CALLS.items():
            module = getattr(self.pygame, part) if part else self.pygame
            for name in names:
                if callable(getattr(module, name, None)):
                    self.watch_call(module, name, f"{part}.{name}" if part else name)

    def watch_call(self, module: object, name: str, label: str) -> None:
        real = getattr(module, name)

        def call(*args: object, **kwargs: object) -> object:
            given = [self.told(arg) for arg in args] + [f"{key}={self.told(value)}" for key, value in kwargs.items()]
            self.world.trace.add("calls", f"pygame.{label}({', '.join(given)})")
            try:
                return real(*args, **kwargs)
            except self.pygame.error:
                if label not in _ONLY_SHOWN:
                    raise
                return None

        setattr(module, name, call)

    def told(self, value: object) -> str:
        """A value in words: a picture by its size and its pixels, a pointer's shape by what it is made of."""
        if isinstance(value, self.pygame.cursors.Cursor):
            return f"a pointer of {', '.join(self.told(part) for part in value.data)}"
        return self.pixels(value) if isinstance(value, self.pygame.Surface) else shown(value)

    def pixels(self, surface: object) -> str:
        width, height = surface.get_size()
        digest = hashlib.sha256(self.pygame.image.tobytes(surface, "RGBA")).hexdigest()[:16]
        return f"{width}x{height} pixels {digest}"

    # -- the display

    def watch_display(self) -> None:
        display = self.pygame.display
        for name in ("flip", "update"):
            setattr(display, name, self.showing(getattr(display, name)))

    def showing(self, real: object) -> object:
        def show(*args: object, **kwargs: object) -> object:
            result = real(*args, **kwargs)
            surface = self.pygame.display.get_surface()
            if surface is not None:
                self.world.trace.add("draw", f"shows {self.pixels(surface)}")
            self.turn()
            return result

        return show

    def turn(self) -> None:
        """The next turn: its events, and the end once all turns are played."""
        self.waits = 0
        for place, button in self.let_go:
            self.mouse(place, button, down=False)
        self.let_go = []
        for event in self.world.next_turn():
            self.happen(event)
        if self.world.turn >= self.world.turns:
            self.pygame.event.post(self.pygame.event.Event(self.pygame.QUIT))
        if self.world.turn >= self.world.turns + _GRACE:
            self.world.stop()

    # -- time

    def script_time(self) -> None:
        pygame, recorder = self.pygame, self

        def ticks() -> int:
            return int(clock.seconds * 1000)

        def wait(milliseconds: int) -> int:
            clock.wait(milliseconds / 1000)
            recorder.world.slept()
            recorder.run_timers()
            return milliseconds

        class Clock:
            """A clock that follows the virtual one."""

            def __init__(self) -> None:
                self.last = clock.seconds
                self.passed = 0

            def tick(self, framerate: float = 0) -> int:
                step = 1 / framerate if framerate else 1 / 1000
                clock.wait_until(self.last + step)
                self.passed = round((clock.seconds - self.last) * 1000)
                self.last = clock.seconds
                recorder.world.slept()
                recorder.run_timers()
                return self.passed

            tick_busy_loop = tick

            def get_time(self) -> int:
                return self.passed

            get_rawtime = get_time

            def get_fps(self) -> float:
                return 1000 / self.passed if self.passed else 0.0

        time = pygame.time
        time.get_ticks, time.wait, time.delay, time.Clock = ticks, wait, wait, Clock
        time.set_timer = self.set_timer
        if hasattr(pygame, "Clock"):
            pygame.Clock = Clock

    def set_timer(self, event: object, millis: int = 0, loops: int = 0) -> None:
        made = event if not isinstance(event, int) else self.pygame.event.Event(event)
        self.timers.pop(made.type, None)
        if millis:
            self.timers[made.type] = [clock.seconds + millis / 1000, millis / 1000, loops or -1, made]

    def run_timers(self) -> None:
        if self.music_plays and clock.seconds >= self.music_until:
            self.music_plays = False
            if self.music_ends_with is not None:
                self.pygame.event.post(self.pygame.event.Event(self.music_ends_with))
        for kind, timer in list(self.timers.items()):
            while kind in self.timers and timer[0] <= clock.seconds:
                self.pygame.event.post(timer[3])
                timer[0] += timer[1]
                timer[2] -= 1
                if timer[2] == 0:
                    del self.timers[kind]

    # -- keys and mouse

    def script_input(self) -> None:
        pygame, recorder = self.pygame, self

        class Pressed:
            """Which keys are held, by key code."""

            def __getitem__(self, key: int) -> bool:
                return key in recorder.held

            def __len__(self) -> int:
                return 512

        pygame.key.get_pressed = Pressed
        pygame.mouse.get_pos = lambda: recorder.pointer
        pygame.mouse.get_pressed = lambda num_buttons=3: tuple(recorder.buttons[:num_buttons])
        pygame.mouse.get_rel = lambda: (0, 0)
        pygame.mouse.get_focused = lambda: True
        real_wait = pygame.event.wait

        def wait(timeout: int = 0) -> object:
            event = pygame.event.poll()
            tries = 0
            while event.type == pygame.NOEVENT and tries < recorder.world.turns + _GRACE:
                tries += 1
                clock.wait(0.01)
                recorder.run_timers()
                recorder.turn()
                event = pygame.event.poll()
            return event if event.type != pygame.NOEVENT else real_wait(1)

        pygame.event.wait = wait

        def polled(real: object) -> object:
            def get(*args: object, **kwargs: object) -> object:
                # A loop that draws nothing while it waits must come to its end as well.
                recorder.waits += 1
                if recorder.waits > _GRACE:
                    recorder.turn()
                recorder.run_timers()
                return [event for event in real(*args, **kwargs) if event.type not in _noise(pygame)]

            return get

        pygame.event.get = polled(pygame.event.get)
        for place, name in _ANSWERS:
            module = getattr(pygame, place)
            setattr(module, name, self.answering(f"{place}.{name}", getattr(module, name)))

    def answering(self, name: str, real: object) -> object:
        """What tells those who note the program's calls what it returns."""

        def answer(*args: object, **kwargs: object) -> object:
            value = real(*args, **kwargs)
            self.world.returned(name, value)
            return value

        return answer

    def happen(self, event: dict) -> None:
        """Post one event of the scenario."""
        if "key" in event:
            self.key(event["key"], down=True)
            self.key(event["key"], down=False)
        elif "press" in event:
            self.key(event["press"], down=True)
        elif "let_go" in event:
            self.key(event["let_go"], down=False)
        elif "type" in event:
            for char in event["type"]:
                self.key(char, down=True)
                self.key(char, down=False)
        elif "click" in event:
            # It is let go a turn later, for those who look whether the button is down.
            self.mouse(event["click"], event.get("button", 1), down=True)
            self.let_go.append((event["click"], event.get("button", 1)))
        elif "drag" in event:
            self.move(event["drag"])
        elif "release" in event:
            self.mouse(event["release"], event.get("button", 1), down=False)

    def key(self, name: str, *, down: bool) -> None:
        pygame = self.pygame
        code = getattr(pygame, f"K_{name}", None) or getattr(pygame, f"K_{name.lower()}", None)
        code = code or getattr(pygame, f"K_{name.upper()}", None)
        if code is None:
            return
        (self.held.add if down else self.held.discard)(code)
        text = name if len(name) == 1 else {"space": " ", "SPACE": " ", "RETURN": "\r", "Return": "\r"}.get(name, "")
        kind = pygame.KEYDOWN if down else pygame.KEYUP
        pygame.event.post(pygame.event.Event(kind, key=code, mod=0, unicode=text, scancode=0))
        if down and text.isprintable() and text:
            pygame.event.post(pygame.event.Event(pygame.TEXTINPUT, text=text))

    def move(self, place: list) -> None:
        pygame = self.pygame
        before, self.pointer = self.pointer, tuple(place)
        rel = (place[0] - before[0], place[1] - before[1])
        buttons = tuple(int(b) for b in self.buttons)
        pygame.event.post(pygame.event.Event(pygame.MOUSEMOTION, pos=self.pointer, rel=rel, buttons=buttons))

    def mouse(self, place: list, button: int, *, down: bool) -> None:
        pygame = self.pygame
        self.move(place)
        if button in _WHEEL and down:
            turns = _WHEEL[button]
            wheel = {"x": 0, "y": turns, "precise_x": 0.0, "precise_y": float(turns), "flipped": False}
            pygame.event.post(pygame.event.Event(pygame.MOUSEWHEEL, **wheel))
        if button <= 3:
            self.buttons[button - 1] = down
        kind = pygame.MOUSEBUTTONDOWN if down else pygame.MOUSEBUTTONUP
        pygame.event.post(pygame.event.Event(kind, pos=self.pointer, button=button))

    # -- sound

    def name_sounds(self) -> None:
        mixer = self.pygame.mixer
        recorder = self
        plain = mixer.Sound
        if not isinstance(plain, type):
            return

        class Sound(plain):
            """A sound that says when it is played."""

            def __init__(self, *args: object, **kwargs: object) -> None:
                super().__init__(*args, **kwargs)
                self.shown_name = os.path.basename(str(args[0])) if args and isinstance(args[0], str) else "sound"

            def play(self, *args: object, **kwargs: object) -> object:
                recorder.world.trace.add("sound", f"plays {self.shown_name}")
                return super().play(*args, **kwargs)

        mixer.Sound = Sound
        self.script_music()
        for name in ("load", "play", "stop"):
            self.name_music(name)

    def script_music(self) -> None:
        """Music and sounds play for as long as the virtual clock says."""
        music, mixer, recorder = self.pygame.mixer.music, self.pygame.mixer, self
        pygame_no_event = self.pygame.NOEVENT

        def after(real: object, seconds: float) -> object:
            def call(*args: object, **kwargs: object) -> object:
                recorder.music_until = clock.seconds + seconds
                recorder.music_plays = True
                return real(*args, **kwargs)

            return call

        for name, seconds in (("play", _MUSIC_LASTS), ("stop", 0.0), ("fadeout", 0.0), ("unload", 0.0)):
            setattr(music, name, after(getattr(music, name), seconds))

        def set_endevent(kind: int | None = None) -> None:
            recorder.music_ends_with = kind

        music.set_endevent = set_endevent
        music.get_endevent = lambda: recorder.music_ends_with or pygame_no_event
        music.get_busy = lambda: clock.ask() < recorder.music_until
        music.get_pos = lambda: int((clock.seconds - recorder.music_until + _MUSIC_LASTS) * 1000)
        mixer.get_busy = lambda: clock.ask() < recorder.music_until

    def name_music(self, name: str) -> None:
        music = self.pygame.mixer.music
        real = getattr(music, name)

        def call(*args: object, **kwargs: object) -> object:
            what = os.path.basename(str(args[0])) if name == "load" and args else ""
            self.world.trace.add("sound", f"music {name} {what}".strip())
            return real(*args, **kwargs)

        setattr(music, name, call)


def _noise(pygame: object) -> frozenset:
    """Events that the headless drivers bring by themselves, at moments of their own."""
    names = ("ACTIVEEVENT", "VIDEOEXPOSE", "AUDIODEVICEADDED", "AUDIODEVICEREMOVED", "WINDOWSHOWN", "WINDOWEXPOSED")
    names += ("WINDOWFOCUSGAINED", "WINDOWENTER", "WINDOWLEAVE", "WINDOWMOVED", "WINDOWHITTEST", "WINDOWTAKEFOCUS")
    names += ("JOYDEVICEADDED", "CLIPBOARDUPDATE", "KEYMAPCHANGED", "WINDOWDISPLAYCHANGED")
    return frozenset(getattr(pygame, name) for name in names if hasattr(pygame, name))
