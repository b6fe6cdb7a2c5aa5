"""Sketches: a library calls `setup` once, `draw` for each frame, and handlers by their names."""

from __future__ import annotations

from aedifex.languages.python.runners.known import KnownRunner, words

RUNNER = KnownRunner(
    name="the sketch's runner",
    modules=words("p5 py5 py5_tools processing"),
    injected=words("createCanvas createGraphics frameCount noStroke mousePressed"),
    hooks=words(
        "setup draw settings setting preload exiting key_pressed key_released key_typed mouse_pressed mouse_released "
        "mouse_clicked mouse_moved mouse_dragged mouse_wheel mouse_entered mouse_exited "
        "keyPressed keyReleased keyTyped mousePressed mouseReleased mouseClicked mouseMoved mouseDragged mouseWheel"
    ),
)
