"""What functions of JavaScript's library do, by their names."""

from __future__ import annotations

import re

_NUMBERS = "abs acos asin atan atan2 ceil cos exp floor hypot log log10 log2 max min pow round sign sin sqrt tan trunc"

_TEXTS = "Boolean Number String isFinite isNaN parseFloat parseInt now random stringify encodeURIComponent"

PLAIN_FUNCTIONS = frozenset(f"{_TEXTS} {_NUMBERS}".split())
"""Functions that give back nothing but numbers, texts and truth values."""

CONVERTING = frozenset({"Boolean", "Number", "String", "parseFloat", "parseInt"})
"""Functions that make a number, a text or a truth of a text, and cannot fail."""

READING_FUNCTIONS = PLAIN_FUNCTIONS | {"isArray", "is", "isInteger", "keys", "values", "entries", "clearTimeout"}
"""Functions that leave their arguments alone and call nothing back."""

MAKERS = frozenset({"Array", "Map", "Set", "Object", "Date"})
"""Constructors that, given nothing, only make something empty, or the time."""

ELEMENT_GIVERS = frozenset({"at", "find", "findLast", "get", "pop", "shift"})
"""Methods that give back what their object holds."""

QUIET_MODULES = frozenset({"fs", "path", "os", "url", "querystring", "crypto", "zlib", "buffer", "string_decoder"})
"""Node's modules whose functions call the program back only where they are given a function."""

ASKING = frozenset({"prompt", "confirm", "question"})
"""Functions that wait for what is typed."""

DRAWING = frozenset(
    """
arc arcTo background beginPath bezierCurveTo circle clearRect closePath drawImage ellipse fill fillRect fillText image
line lineTo moveTo noFill noStroke point quad quadraticCurveTo rect roundRect square stroke strokeRect strokeText
strokeWeight text triangle vertex
""".split()
)
"""Functions, and methods of a canvas, that draw."""

MOVING_PENS = frozenset("rotate scale shearX shearY translate".split())
"""What says where others draw, of a sketch by itself, of a canvas as methods."""

KEEPING_PENS = {"push": 1, "pop": -1}
"""Functions of a sketch that keep how it draws, or bring it back: how many times more that is kept behind them."""

KEEPING_PENS_OF_CANVAS = {"save": 1, "restore": -1}
"""The same, as methods of a canvas."""

BEGINNING_PATHS = frozenset({"beginShape"})
GOING_ON_PATHS = frozenset("beginContour bezierVertex curveVertex endContour endShape quadraticVertex vertex".split())
"""Functions of a sketch that begin an outline, and those that go on with it, or draw it."""

BEGINNING_PATHS_OF_CANVAS = frozenset({"beginPath"})
GOING_ON_PATHS_OF_CANVAS = frozenset(
    """
arc arcTo bezierCurveTo clip closePath ellipse fill lineTo moveTo quadraticCurveTo rect roundRect stroke
""".split()
)
"""The same, as methods of a canvas."""

SKETCHING = DRAWING | frozenset(
    """
angleMode alpha beginContour beginShape bezier bezierVertex blendMode blue brightness clear color colorMode constrain
createCanvas createVector cursor curve curveVertex day degrees dist ellipseMode endContour endShape frameRate green hour
hue imageMode keyIsDown lerp lerpColor lightness mag map millis minute month nf nfc nfp nfs noCursor noFill noLoop
noStroke noTint noise noiseDetail noiseSeed norm pixelDensity pop push quadraticVertex radians randomGaussian randomSeed
rectMode red resizeCanvas rotate saturation scale second shearX shearY sq strokeCap strokeJoin strokeWeight textAlign
textAscent textDescent textFont textLeading textSize textStyle textWidth tint translate year
""".split()
)
"""Functions of a sketch's library that call nothing of the sketch."""

FINDING = frozenset(
    """
getElementById getElementsByClassName getElementsByName getElementsByTagName querySelector querySelectorAll
""".split()
)
"""Methods that give elements of the page."""
FINDING_ONE = frozenset({"getElementById", "querySelector"})
"""Those of them that give one, if there is any."""

CANVAS = FINDING | frozenset(
    """
addColorStop arc arcTo beginPath bezierCurveTo clearRect clip closePath createImageData createLinearGradient
createPattern createRadialGradient drawImage ellipse fill fillRect fillText getContext getImageData isPointInPath lineTo
measureText moveTo putImageData quadraticCurveTo rect resetTransform restore rotate roundRect save scale setLineDash
setTransform stroke strokeRect strokeText transform translate
""".split()
)
"""Methods of a canvas, and of the document, that call nothing of the program."""

PENS = frozenset(
    """
beginPath ellipseMode fill imageMode noFill noStroke noTint rectMode setLineDash stroke strokeCap strokeJoin
strokeWeight textAlign textFont textLeading textSize textStyle tint
""".split()
)
"""What only says how others draw."""

KEYS = re.compile(r"""["'](Arrow\w+|Key[A-Z]|Digit\d|Space|Enter|Escape)["']""")
"""The keys that a text names."""

CALLING_LATER = frozenset(
    """
addEventListener cancelAnimationFrame clearInterval clearTimeout off on once removeEventListener
requestAnimationFrame setImmediate setInterval setTimeout
""".split()
)
"""What only notes, or forgets, what is called when something happens, or when it is time."""

KEEPING_HANDLERS = frozenset("addEventListener createServer on once setInterval".split())
"""What is given something to call that deserves a name."""

FIRING = frozenset(
    """
abort blur change click close destroy dispatchEvent emit end fire focus pause redraw requestSubmit reset resume select
submit trigger triggerHandler write
""".split()
)
"""What lets handlers run before it comes back."""
