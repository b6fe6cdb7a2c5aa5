"""Which requests to send: what a script answers, with values of its own, and what its answers lead to."""

from __future__ import annotations

import random
import re
from collections.abc import Iterator

from aedifex.program.model.inputs import Inputs, Request
from aedifex.verify.running.trace import Trace
from aedifex.verify.scenarios.scenario import Event
from aedifex.verify.scenarios.typist import Typist

_LINK = re.compile(
    r"""(?:href|action|src)=["'](/[^"'\s{}]*)["']|^Location: (?:https?://localhost)?(/\S*)""", re.MULTILINE
)
_SIGN = re.compile(r"""["']\w*(?:token|session|jwt|key)\w*["']\s*:\s*["']([^"'\s]{2,})["']""", re.IGNORECASE)
_ENDING = re.compile(r"\.?[a-z]{2,4}\d?")
_VARYING = re.compile(r"\{(\w*)\}")
_SAFE = re.compile(r"[^\w.-]+")
_LEFT_OUT = 0.1
_LINKS = 0.15
_OF_A_KNOWN_SORT = 0.8
_EXPECTED = 0.7
_ONE_RECORD = 0.8
_UNKNOWN = 0.1
_MOST_LINKS = 40
_MOST_SIGNS = 8
_MOST_RECORDS = 40
_SMALL = (0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 5, 7, 12)
_NOWHERE = "/nowhere-at-all"
_OTHER_METHODS = ("GET", "POST", "PUT", "DELETE", "HEAD")


class Visitor:
    """Thinks of requests. What leads to more of them is learnt from answers: links, redirections, signs of who asks."""

    def __init__(self, inputs: Inputs, typist: Typist, chance: random.Random) -> None:
        self.requests = inputs.requests
        self.expected = inputs.values
        self.typist = typist
        self.chance = chance
        self.links: dict[str, None] = {}
        self.signs: dict[str, None] = {}
        self.record = 0
        self.endings = [w.strip(".") for w in (*inputs.words, *inputs.choices) if _ENDING.fullmatch(w)]

    def learn(self, trace: Trace) -> None:
        """Note the links and redirections of the application's own in the answers of a run, and signs of who asks."""
        for answer in (entry.text for entry in trace.entries if entry.kind == "answer"):
            if len(self.links) < _MOST_LINKS:
                self.links.update(dict.fromkeys(link or target for link, target in _LINK.findall(answer)))
            if len(self.signs) < _MOST_SIGNS:
                self.signs.update(dict.fromkeys(_SIGN.findall(answer)))

    def first(self) -> tuple[Event, ...]:
        """Every request once, in the order in which the script has them, and one that nothing is there for."""
        found: list[Event] = []
        for request in self.requests:
            for method in request.methods:
                found.append(self.event(len(found) + 1, request, method))
        return (*found, Event(len(found) + 1, "request", f"GET {_NOWHERE}"))

    def events(self, count: int, turn: int) -> Iterator[Event]:
        """So many requests, from a turn on."""
        for number in range(turn, turn + count):
            kind = self.chance.random()
            if self.links and kind < _LINKS:
                yield Event(number, "request", f"GET {self.chance.choice(list(self.links))}")
                continue
            request = self.chance.choice(self.requests)
            is_odd = kind > 1 - _LEFT_OUT / 2
            method = self.chance.choice(_OTHER_METHODS if is_odd else request.methods)
            yield self.event(number, request, method, _LEFT_OUT)

    def event(self, turn: int, request: Request, method: str, left_out: float = 0.0) -> Event:
        """One request; each of its values is left out at a rate."""
        self.record = self.chance.randrange(_MOST_RECORDS)
        *begins, end = _VARYING.sub("\0", request.path).split("\0")
        names = enumerate(_VARYING.findall(request.path))
        values = [self.value(name, is_number=number in request.numbers) for number, name in names]
        path = "".join(begin + value for begin, value in zip(begins, values, strict=True)) + end
        query = "&".join(f"{name}={self.value(name)}" for name in request.query if self.chance.random() >= left_out)
        sent: dict[str, object] = {}
        if request.json and method != "GET":
            sent["json"] = {name: self.datum(name) for name in request.json if self.chance.random() >= left_out}
        elif (request.form or request.files) and method != "GET":
            sent["form"] = {name: self.entry(name) for name in request.form if self.chance.random() >= left_out}
            files = {name: self.file(name) for name in request.files if self.chance.random() >= left_out}
            sent |= {"files": files} if files else {}
        elif request.has_body and method != "GET":
            sent["body"] = self.typist.entry()
        if request.headers and self.chance.random() >= left_out:
            sent["headers"] = {name: f"{before}{self.sign(name)}" for name, before in request.headers}
        return Event(turn, "request", f"{method} {path}{'?' * bool(query)}{query}", sent=sent)

    def entry(self, name: str) -> str:
        """What is sent under a name: most often what the script expects there, where that is known.

        Of what it has in its records all is of one, most often.
        """
        known = self.expected.get(name)
        if not known or self.chance.random() >= _EXPECTED:
            return self.typist.entry()
        return known[self.record % len(known)] if self.chance.random() < _ONE_RECORD else self.chance.choice(known)

    def sign(self, name: str) -> str:
        """What tells who asks: most often what an answer has given for that, or what the script expects."""
        known = [*self.signs, *self.expected.get(name, ())]
        return self.chance.choice(known) if known and self.chance.random() >= _UNKNOWN else self.typist.token()

    def value(self, name: str = "", *, is_number: bool = False) -> str:
        """A value that can stand in a path: of those that the script expects under a name, or of those in its lists."""
        if is_number:
            return str(self.chance.choice(_SMALL)) if self.chance.random() < 0.8 else self.typist.number()
        known = name if name in self.expected else ""
        text = self.entry(known) if known in self.expected else self.typist.token()
        return _SAFE.sub("-", text) or "x"

    def file(self, name: str) -> dict[str, str]:
        """A file that is sent along, with an ending that the script knows."""
        known = [word for word in self.endings if self.chance.random() < _OF_A_KNOWN_SORT]
        return {"name": f"{name}.{self.chance.choice(known or ['txt'])}", "text": self.typist.entry()}

    def datum(self, name: str) -> object:
        """A value of data in JSON."""
        text = self.entry(name)
        return int(text) if text.isdigit() and self.chance.random() < 0.7 else text
