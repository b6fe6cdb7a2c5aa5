"""Applications that answer requests: they are given those of the scenario in this process, and never a socket."""

from __future__ import annotations

import http.cookies
import io
import json
import os
import sys
import urllib.parse

_UNSTABLE = frozenset({"date", "server"})
_HANDLERS = "RequestHandlerClass"
_FORM = "application/x-www-form-urlencoded"
_BORDER = "aedifex-quay-wall"
_KINDS = (
    ("flask", "Flask"),
    ("quart", "Quart"),
    ("bottle", "Bottle"),
    ("fastapi", "FastAPI"),
    ("starlette.applications", "Starlette"),
)


class Visitor:
    """Sends the scenario's requests to an application, one after the other, and keeps its cookies between them."""

    def __init__(self, world: object) -> None:
        self.world = world
        self.cookies: dict[str, str] = {}
        self.has_served = False

    @property
    def has_requests(self) -> bool:
        """Whether the scenario has any."""
        return any("request" in event for events in self.world.events.values() for event in events)

    def serve(self, app: object, *_: object, **__: object) -> None:
        """Take the place of a server's main loop, until the scenario has no more requests."""
        self.has_served = True
        answer = _Asgi(app) if is_asynchronous(app) else _Handlers(app) if hasattr(app, _HANDLERS) else _Wsgi(app)
        answer.open()
        try:
            while not self.world.is_over and any(turn > self.world.turn for turn in self.world.events):
                for event in self.world.next_turn():
                    if "request" in event:
                        self.visit(answer, event)
        finally:
            answer.close()

    def visit(self, answer: object, event: dict) -> None:
        """Send one request, and write down what comes back."""
        method, _, target = event["request"].partition(" ")
        headers, body = self.sent(event)
        self.world.trace.add("request", f"{method} {target}")
        try:
            status, received, content = answer.to(method, target or "/", headers, body)
        except Exception as error:
            self.world.trace.add("answer", f"fails with {type(error).__name__}{said(error)}")
            return
        self.remember(received)
        stable = sorted(f"{key}: {value}" for key, value in received if key.lower() not in _UNSTABLE)
        self.world.trace.add("answer", "\n".join([status, *stable]))
        for line in content.decode("utf-8", "backslashreplace").splitlines():
            self.world.trace.add("answer", line)

    def sent(self, event: dict) -> tuple[dict[str, str], bytes]:
        """The headers and the body of a request."""
        headers = {"Host": "localhost", "Accept": "*/*"}
        body = event.get("body", "").encode()
        if "files" in event:
            headers["Content-Type"], body = f"multipart/form-data; boundary={_BORDER}", multipart(event)
        elif "form" in event:
            headers["Content-Type"], body = _FORM, urllib.parse.urlencode(event["form"]).encode()
        elif "json" in event:
            headers["Content-Type"], body = "application/json", json.dumps(event["json"]).encode()
        if self.cookies:
            headers["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        headers.update(event.get("headers", {}))
        return headers, body

    def remember(self, headers: list) -> None:
        """Keep the cookies that came, and forget those that are to be."""
        for key, value in headers:
            if key.lower() != "set-cookie":
                continue
            found = http.cookies.SimpleCookie()
            found.load(value)
            for name, morsel in found.items():
                self.cookies.pop(name, None)
                if morsel["max-age"] != "0" and morsel.value:
                    self.cookies[name] = morsel.coded_value


def said(error: BaseException) -> str:
    """The words of an error; not those which say how a function is called."""
    return "" if isinstance(error, TypeError) else f": {error}"


def multipart(event: dict) -> bytes:
    """The fields and the files of a form, as RFC 7578 has them."""
    parts = [(f'name="{name}"', text) for name, text in event.get("form", {}).items()]
    parts += [(f'name="{field}"; filename="{file["name"]}"', file["text"]) for field, file in event["files"].items()]
    lines = [f"--{_BORDER}\r\nContent-Disposition: form-data; {named}\r\n\r\n{text}\r\n" for named, text in parts]
    return "".join([*lines, f"--{_BORDER}--\r\n"]).encode()


def is_asynchronous(app: object) -> bool:
    """Whether an application speaks ASGI."""
    names = {name for kind in type(app).__mro__ for name in (kind.__name__, kind.__module__.partition(".")[0])}
    return not names.isdisjoint({"fastapi", "starlette", "quart"})


class _Still:
    """What has nothing to do but to answer."""

    def open(self) -> None:
        """Nothing comes before the first request."""

    def close(self) -> None:
        """Nothing comes after the last one."""


class _Wsgi(_Still):
    """An application by PEP 3333."""

    def __init__(self, app: object) -> None:
        self.app = app

    def to(self, method: str, target: str, headers: dict, body: bytes) -> tuple[str, list, bytes]:
        """Status, headers and body of the answer to one request."""
        path, _, query = target.partition("?")
        environ = {
            "REQUEST_METHOD": method,
            "SCRIPT_NAME": "",
            "PATH_INFO": urllib.parse.unquote_to_bytes(path).decode("latin-1"),
            "QUERY_STRING": query,
            "SERVER_NAME": "localhost",
            "SERVER_PORT": "80",
            "SERVER_PROTOCOL": "HTTP/1.1",
            "REMOTE_ADDR": "127.0.0.1",
            "CONTENT_LENGTH": str(len(body)),
            "wsgi.version": (1, 0),
            "wsgi.url_scheme": "http",
            "wsgi.input": io.BytesIO(body),
            "wsgi.errors": sys.stderr,
            "wsgi.multithread": False,
            "wsgi.multiprocess": False,
            "wsgi.run_once": False,
        }
        for name, value in headers.items():
            key = name.upper().replace("-", "_")
            environ[key if key == "CONTENT_TYPE" else f"HTTP_{key}"] = value
        begun: list = []
        written: list[bytes] = []

        def start_response(status: str, received: list, error: object = None) -> object:
            begun[:] = [status, list(received)]
            return written.append

        parts = self.app(environ, start_response)
        try:
            written += parts
        finally:
            if hasattr(parts, "close"):
                parts.close()
        return begun[0], begun[1], b"".join(written)


class _Asgi:
    """An application by ASGI 3, with its lifespan around all requests."""

    def __init__(self, app: object) -> None:
        import asyncio

        self.app = app
        self.loop = asyncio.new_event_loop()
        self.coming: object = None
        self.life: object = None

    def open(self) -> None:
        """Let the application start."""
        self.loop.run_until_complete(self._begin())

    async def _begin(self) -> None:
        import asyncio

        self.coming, begun = asyncio.Queue(), asyncio.Event()

        async def send(message: dict) -> None:
            begun.set()

        async def live() -> None:
            try:
                await self.app({"type": "lifespan", "asgi": {"version": "3.0"}, "state": {}}, self.coming.get, send)
            except Exception:  # it has no lifespan, which the protocol allows
                pass
            begun.set()

        self.life = asyncio.ensure_future(live())
        await self.coming.put({"type": "lifespan.startup"})
        await begun.wait()

    def close(self) -> None:
        """Let the application end."""
        self.loop.run_until_complete(self._end())
        self.loop.close()

    async def _end(self) -> None:
        await self.coming.put({"type": "lifespan.shutdown"})
        await self.life

    def to(self, method: str, target: str, headers: dict, body: bytes) -> tuple[str, list, bytes]:
        """Status, headers and body of the answer to one request."""
        return self.loop.run_until_complete(self._answer(method, target, headers, body))

    async def _answer(self, method: str, target: str, headers: dict, body: bytes) -> tuple[str, list, bytes]:
        path, _, query = target.partition("?")
        scope = {
            "type": "http",
            "asgi": {"version": "3.0"},
            "http_version": "1.1",
            "method": method,
            "scheme": "http",
            "path": urllib.parse.unquote(path),
            "raw_path": path.encode(),
            "root_path": "",
            "query_string": query.encode(),
            "headers": [(name.lower().encode(), value.encode()) for name, value in headers.items()],
            "client": ("127.0.0.1", 40000),
            "server": ("localhost", 80),
            "state": {},
        }
        waiting = [{"type": "http.request", "body": body, "more_body": False}]
        sent: list[dict] = []

        async def receive() -> dict:
            return waiting.pop() if waiting else {"type": "http.disconnect"}

        async def send(message: dict) -> None:
            sent.append(message)

        await self.app(scope, receive, send)
        start = next(message for message in sent if message["type"] == "http.response.start")
        received = [(key.decode("latin-1"), value.decode("latin-1")) for key, value in start.get("headers", [])]
        content = b"".join(message.get("body", b"") for message in sent if message["type"] == "http.response.body")
        return str(start["status"]), received, content


class _Handlers(_Still):
    """A server of the standard library, which makes a handler for each request, given a connection in memory."""

    def __init__(self, server: object) -> None:
        self.server = server

    def to(self, method: str, target: str, headers: dict, body: bytes) -> tuple[str, list, bytes]:
        """Status, headers and body of the answer to one request."""
        length = {"Content-Length": str(len(body))} if body else {}
        lines = [f"{method} {target} HTTP/1.1", *(f"{name}: {value}" for name, value in {**length, **headers}.items())]
        connection = _Connection("\r\n".join([*lines, "", ""]).encode() + body)
        self.server.finish_request(connection, ("127.0.0.1", 40000))
        head, _, content = bytes(connection.sent).partition(b"\r\n\r\n")
        status, *received = head.decode("latin-1").split("\r\n")
        return status.partition(" ")[2], [tuple(line.split(": ", 1)) for line in received if ": " in line], content


class _Connection:
    """What a handler takes for a socket."""

    def __init__(self, data: bytes) -> None:
        self.data = data
        self.sent = bytearray()

    def makefile(self, mode: str = "r", *_: object, **__: object) -> io.BytesIO:
        """What was sent to the handler."""
        return io.BytesIO(self.data if "r" in mode else b"")

    def sendall(self, data: bytes) -> None:
        """The handler answers."""
        self.sent += data

    def send(self, data: bytes) -> int:
        """The handler answers, and all of it comes through."""
        self.sent += data
        return len(data)

    def settimeout(self, *_: object) -> None:
        """Nothing has to be waited for."""

    setsockopt = shutdown = close = settimeout


def _bind_in_memory(server: object) -> None:
    """Take the place of what gives a server its port."""
    server.server_name, server.server_port = "localhost", server.server_address[1]


def _serve_in_memory(module: object, visitor: Visitor) -> None:
    """Let the servers of `socketserver` neither open a socket nor wait for anybody."""

    class InMemory:
        def __init__(self, server_address: tuple, handler: object, bind_and_activate: bool = True) -> None:
            module.BaseServer.__init__(self, server_address, handler)
            self.socket = _Connection(b"")
            if bind_and_activate:
                self.server_bind()

        def serve_forever(self, *_: object, **__: object) -> None:
            visitor.serve(self)

        def nothing(self, *_: object) -> None:
            return None

        handle_request = serve_forever
        server_activate = server_close = shutdown = nothing
        server_bind = _bind_in_memory

    for name, value in vars(InMemory).items():
        if callable(value) and name != "nothing":
            setattr(module.TCPServer, name, value)


def install(finder: object, world: object) -> None:
    """Let what starts a server hand the application over instead."""
    visitor = world.visitor = Visitor(world)
    finder.after["werkzeug.serving"] = lambda module: setattr(
        module, "run_simple", lambda host, port, app, **options: visitor.serve(app)
    )
    finder.after["bottle"] = lambda module: setattr(
        module, "run", lambda app=None, **options: visitor.serve(named(app) if app else module.default_app())
    )
    finder.after["uvicorn"] = lambda module: setattr(module, "run", lambda app, **options: visitor.serve(named(app)))
    finder.after["socketserver"] = lambda module: _serve_in_memory(module, visitor)
    finder.after["http.server"] = lambda module: setattr(module.HTTPServer, "server_bind", _bind_in_memory)
    finder.after["waitress"] = lambda module: setattr(module, "serve", visitor.serve)
    finder.after["wsgiref.simple_server"] = lambda module: setattr(
        module, "make_server", lambda host, port, app, *more, **options: _Server(visitor, app)
    )


class _Server:
    """What `make_server` gives."""

    def __init__(self, visitor: Visitor, app: object) -> None:
        self.visitor = visitor
        self.app = app

    def serve_forever(self, *_: object) -> None:
        """Answer the scenario's requests."""
        self.visitor.serve(self.app)

    handle_request = serve_forever

    def shutdown(self) -> None:
        """It has stopped already."""

    server_close = shutdown

    def __enter__(self) -> _Server:
        return self

    def __exit__(self, *error: object) -> None:
        """Nothing is open."""


def named(app: object) -> object:
    """An application that is named as `module:variable`, or given."""
    if not isinstance(app, str):
        return app
    module, _, variable = app.partition(":")
    main = sys.modules["__main__"]
    stem = os.path.splitext(os.path.basename(main.__file__))[0]
    found = main if module == stem else __import__(module, fromlist=["*"])
    return getattr(found, variable or "app")


def serve_waiting(module: object, world: object) -> None:
    """Give the requests to the application of a script that leaves it to another program to start a server."""
    visitor = world.visitor
    app = application_of(module) if visitor.has_requests and not visitor.has_served else None
    if app is not None:
        visitor.serve(app)


def application_of(module: object) -> object:
    """The application in a script's variables, or the one that a library keeps for it."""
    kinds = tuple(getattr(sys.modules[name], kind) for name, kind in _KINDS if hasattr(sys.modules.get(name), kind))
    found = [value for value in vars(module).values() if isinstance(value, kinds)] if kinds else []
    by_name = [vars(module)[name] for name in ("app", "application") if callable(vars(module).get(name))]
    if found or by_name:
        return (found or by_name)[-1 if found else 0]
    bottle = sys.modules.get("bottle")
    return bottle.default_app() if bottle is not None and bottle.default_app().routes else None
