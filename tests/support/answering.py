"""Handler classes of the standard library's server, written at random, and requests for them."""

from __future__ import annotations

import contextlib
import io
import random
from functools import partial
from http.server import HTTPServer
from pathlib import Path
from unittest import mock

from tests.support.scripts import outcome, play_here

_ANSWERS = (
    "self.reply(200, {items})",
    "self.reply(200, {{'visits': {count}}})",
    "found = [one for one in {items} if one['n'] > 1]\nprint('looking', len(found))\nself.reply(200, found)",
    "number = int(self.path.rpartition('/')[2] or 0)\nfor one in {items}:\n    if one['n'] == number:\n"
    "        self.reply(200, one)\n        return\nself.reply(404, 'none')",
    "number = len(self.path)\n{count} += number\nif {count} > 40:\n    self.reply(409, 'full')\n    return\n"
    "self.reply(200, {count})",
    "text = self.path.upper()\n{log}.append(text)\nself.reply(200, {log}[-2:])",
)


def write_server(seed: int) -> tuple[str, list[str]]:
    """A script with a handler class, and requests: methods and paths."""
    chance = random.Random(f"server {seed}")
    names = {"items": chance.choice(["boats", "stops"]), "count": "visits", "log": "seen"}
    paths = ["/", "/boats", "/boats/", "/log", "/visits", "/api/list"]
    lines = ["import json", "from http.server import BaseHTTPRequestHandler, HTTPServer", ""]
    lines += [f"{names['items']} = [{{'n': 1, 'name': 'Ida'}}, {{'n': 2, 'name': 'Ole'}}, {{'n': 3, 'name': 'Mia'}}]"]
    lines += ["visits = 0", "seen = []", "", "", "class Handler(BaseHTTPRequestHandler):"]
    requests: list[str] = []
    for method in ("GET", "POST"):
        lines += [f"    def do_{method}(self):", "        global visits", "        visits += 1"]
        chosen = chance.sample(paths, chance.randint(2, 5))
        for number, path in enumerate(chosen):
            test = f"self.path.startswith('{path}')" if path.endswith("s/") else f"self.path == '{path}'"
            lines.append(f"        {'elif' if number else 'if'} {test}:")
            lines += [f"            {line}" for line in chance.choice(_ANSWERS).format(**names).split("\n")]
        lines += ["        else:", "            self.reply(404, 'nothing here')", ""]
        requests += [
            f"{method} {path}{chance.choice(['', '1', '2', 'x']) if path[-2:] == 's/' else ''}" for path in chosen
        ]
    lines += ["    def reply(self, status, data):", "        self.send_response(status)", "        self.end_headers()"]
    lines += ["        self.wfile.write(json.dumps(data).encode())", ""]
    if chance.random() < 0.3:
        lines += [
            "",
            "def show():",
            f"    print({chance.choice(['visits', 'seen', names['items']])})",
            "",
            "",
            "show()",
        ]
    lines += ["", "HTTPServer(('', 8000), Handler).serve_forever()"]
    chance.shuffle(requests)
    return "\n".join(lines) + "\n", [*requests, "GET /odd", "PUT /"]


class _Connection:
    """A socket in memory."""

    def __init__(self, data: bytes) -> None:
        self.data = data
        self.sent = bytearray()

    def makefile(self, mode: str, *_: object) -> io.BytesIO:
        return io.BytesIO(self.data)

    def sendall(self, data: bytes) -> None:
        self.sent += data


def play_requests(requests: list[str], folder: Path, script: str) -> str:
    """Run a script whose server is given requests; what it answered and printed."""

    def begin(server: HTTPServer, address: tuple[str, int], handler: type, *_: object) -> None:
        server.RequestHandlerClass = handler

    def serve(server: HTTPServer) -> None:
        for request in requests:
            connection = _Connection(f"{request} HTTP/1.0\r\nHost: localhost\r\n\r\n".encode())
            with contextlib.redirect_stderr(io.StringIO()):
                server.RequestHandlerClass(connection, ("127.0.0.1", 1), server)
            told = connection.sent.decode().split("\r\n")
            print(request, [line for line in told if not line.startswith(("Date:", "Server:"))])

    with mock.patch.object(HTTPServer, "__init__", begin), mock.patch.object(HTTPServer, "serve_forever", serve):
        return play_here(folder, script)


def outcome_of_server(seed: int) -> str:
    """Build a script with a server and ask both: `same`, `refused: …`, or `different: …`."""
    text, requests = write_server(seed)
    return outcome(text, play=partial(play_requests, requests))
