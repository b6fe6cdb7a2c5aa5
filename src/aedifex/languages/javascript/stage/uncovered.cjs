// What a script asks for by name, and no stage of its kind has.
"use strict";

const DOCUMENT = new Set(
  "document window navigator localStorage sessionStorage requestAnimationFrame alert confirm prompt Image Audio".split(
    " "
  )
);
const NODE = new Set("require module process Buffer __dirname".split(" "));
const SKETCH = new Set("createCanvas background ellipse rect fill noStroke color createVector".split(" "));

/** What an error says that a script needs, and that is not here; nothing for any other. */
function notCovered(error) {
  const name = error instanceof ReferenceError ? /^(\S+) is not defined/.exec(error.message)?.[1] : undefined;
  if (DOCUMENT.has(name)) return `a page's document (\`${name}\`)`;
  if (NODE.has(name)) return `what only Node has (\`${name}\`)`;
  return SKETCH.has(name) ? `a library for sketches (\`${name}\`)` : "";
}

module.exports = { notCovered };
