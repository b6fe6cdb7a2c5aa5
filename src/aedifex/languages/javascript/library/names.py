"""The names that JavaScript, a page's document and Node give to every script."""

from __future__ import annotations

import json
from pathlib import Path

_LANGUAGE = """
AggregateError Array ArrayBuffer Atomics BigInt BigInt64Array BigUint64Array Boolean DataView Date Error EvalError
FinalizationRegistry Float32Array Float64Array Function Infinity Int16Array Int32Array Int8Array Intl JSON Map Math NaN
Number Object Promise Proxy RangeError ReferenceError Reflect RegExp Set SharedArrayBuffer String Symbol SyntaxError
TypeError URIError Uint16Array Uint32Array Uint8Array Uint8ClampedArray WeakMap WeakRef WeakSet decodeURI
decodeURIComponent encodeURI encodeURIComponent escape eval globalThis isFinite isNaN parseFloat parseInt undefined
unescape this arguments
"""
_DOCUMENT = """
AbortController AnimationEvent Audio AudioContext Blob CanvasRenderingContext2D CustomEvent DOMParser Document Element
Event EventSource EventTarget File FileReader FormData HTMLCanvasElement HTMLElement HTMLImageElement Headers Image
ImageData IntersectionObserver KeyboardEvent MouseEvent MutationObserver Node NodeList Notification OffscreenCanvas
Option Path2D PointerEvent Request ResizeObserver Response TextDecoder TextEncoder TouchEvent URL URLSearchParams
WebSocket Worker XMLHttpRequest addEventListener alert atob btoa cancelAnimationFrame clearInterval clearTimeout close
confirm console crypto customElements devicePixelRatio dispatchEvent document fetch getComputedStyle history innerHeight
innerWidth localStorage location matchMedia name navigator open outerHeight outerWidth parent performance postMessage
print prompt queueMicrotask removeEventListener requestAnimationFrame requestIdleCallback screen scroll scrollBy
scrollTo scrollX scrollY self sessionStorage setInterval setTimeout speechSynthesis structuredClone top window
"""
HANDLERS = frozenset(json.loads((Path(__file__).parents[1] / "stage" / "page" / "handlers.json").read_text("utf-8")))
"""Members of the window that it calls when something happens, if a script gives them a function, also by `var`."""

FILE_ITSELF = "import.meta"
"""What a module asks about itself."""

_NODE = "Buffer __dirname __filename clearImmediate exports global module process require setImmediate"

BUILTINS = frozenset(f"{_LANGUAGE} {_DOCUMENT} {_NODE} {FILE_ITSELF}".split()) | HANDLERS
"""All of them: a name among these that no script declares comes from there."""

OF_NODE = frozenset(_NODE.split())
"""Those of them that no page has."""

KEYWORDS = frozenset(
    """
await break case catch class const continue debugger default delete do else enum export extends false finally for
function if implements import in instanceof interface let new null package private protected public return static super
switch this throw true try typeof var void while with yield
""".split()
)

MODULES = frozenset(
    """
assert async_hooks buffer child_process cluster console constants crypto dgram diagnostics_channel dns domain events fs
http http2 https inspector module net os path perf_hooks process punycode querystring readline repl stream
string_decoder sys timers tls trace_events tty url util v8 vm wasi worker_threads zlib
""".split()
)
"""Node's own modules, but for the `node:` before their names and for what is inside of them."""
