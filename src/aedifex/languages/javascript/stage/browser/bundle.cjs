// Makes one text of modules that need each other, and nothing of Node's, for where there is no Node.
"use strict";

const fs = require("node:fs");
const path = require("node:path");

const NEEDED = /\brequire\("(\.[^"]+)"\)/g;

/** A text that carries out a module, and what it needs, and calls what it exports as `install` with a value. */
function bundled(file, value) {
  const found = new Map();
  const waiting = [file];
  for (let name = waiting.pop(); name; name = waiting.pop()) {
    if (found.has(name)) continue;
    const text = fs.readFileSync(name, "utf8");
    found.set(
      name,
      text.replace(NEEDED, (_, other) => `require(${JSON.stringify(path.resolve(path.dirname(name), other))})`)
    );
    for (const [, other] of text.matchAll(NEEDED)) waiting.push(path.resolve(path.dirname(name), other));
  }
  const parts = [...found].map(([name, text]) => `${JSON.stringify(name)}: (module, require) => {\n${text}\n}`);
  return `(() => {
const parts = {${parts.join(",\n")}};
const made = {};
function require(name) {
  if (!made[name]) parts[name]((made[name] = { exports: {} }), require);
  return made[name].exports;
}
require(${JSON.stringify(file)}).install(${JSON.stringify(value)});
})();`;
}

module.exports = { bundled };
