// Which scripts belong to a page, and which of them to a library for sketches.
"use strict";

const fs = require("node:fs");
const path = require("node:path");

const PAGES = new Set([".html", ".htm"]);
const OF_A_PAGE = /\b(?:document|window|createCanvas|requestAnimationFrame|localStorage|addEventListener)\b/;
const OF_NODE = /\brequire\s*\(|\bprocess\.|^\s*import\b|\bmodule\.exports\b/m;
const OF_A_SKETCH =
  /(?<![.\w$])(?:create[A-Z]\w+|load[A-Z]\w+|noCanvas|background|ellipse|noStroke|noLoop|redraw|describe)\s*\(/;
const CALLED = [/\bfunction\s+setup\b|\bsetup\s*=/, /\bfunction\s+draw\b|\bdraw\s*=/];
const OF_ITS_OWN = /\bgetContext\s*\(|\bfunction\s+(?:createCanvas|background|ellipse)\b/;

/** Whether a file is a page itself. */
function isPage(file) {
  return PAGES.has(path.extname(file).toLowerCase());
}

/** Whether a script belongs to a page: it is one, or speaks of the document, and not of Node. */
function isOfPage(script) {
  if (isPage(script)) return true;
  const text = fs.readFileSync(script, "utf8");
  return (OF_A_PAGE.test(text) || isSketch(text)) && !OF_NODE.test(text);
}

/** Whether a library for sketches calls what the script has: it draws by that, and on no canvas that it asked for itself. */
function isSketch(text) {
  return OF_A_SKETCH.test(text) && CALLED.some((name) => name.test(text)) && !OF_ITS_OWN.test(text);
}

module.exports = { isOfPage, isPage, isSketch };
