"""What reading JavaScript costs, and what the stage adds to a run of Node, side by side in one run, as ratios.

Read are the files of the tools in `tests/support/javascript`; run are a console, a page and a sketch of a few lines.
"""

from __future__ import annotations

import subprocess
import tempfile
from pathlib import Path

from tests.support.javascript_names import TOOLS

from aedifex.languages.javascript import DIALECT
from aedifex.languages.javascript.reader import grammar
from aedifex.source.text import SourceText
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario
from bench.model import measure
from bench.recorders import best

_SCRIPTS = {
    "console.js": "let sum = 0;\nfor (let i = 0; i < 1e5; i++) sum += i;\nconsole.log(sum);\n",
    "page.html": "<canvas></canvas><script>const c = document.querySelector('canvas').getContext('2d');\n"
    "function step() { c.fillRect(1, 2, 3, 4); requestAnimationFrame(step); }\nstep();</script>\n",
    "sketch.js": "function setup() { createCanvas(9, 9); }\nfunction draw() { ellipse(1, 2, 3); }\n",
}


def main() -> None:
    paths = sorted(path for path in TOOLS.rglob("*.*js") if path.is_file())
    sources = [SourceText.read(path) for path in paths]
    parsing = measure(sources, lambda source: grammar.parse(source, source.parse_view))
    model = measure(sources, DIALECT.files.read)
    print(f"{len(sources)} files, {sum(source.line_count for source in sources)} lines")
    print(f"our whole model {model:6.2f} s   {model / parsing:6.1f} x parsing")
    with tempfile.TemporaryDirectory() as folder:
        empty = Path(folder) / "empty.js"
        empty.write_text(_SCRIPTS["console.js"])
        plain = best(lambda: subprocess.run(["node", empty], check=True, capture_output=True))
        print(f"plain node      {plain:6.2f} s")
        for name, text in _SCRIPTS.items():
            script = Path(folder) / name
            script.write_text(text)
            staged = best(lambda script=script: run(script, Scenario(turns=60), DIALECT.runner))
            print(f"{name:<15} {staged:6.2f} s   {staged / plain:6.1f} x plain node")


if __name__ == "__main__":
    main()
