// Which lines of the program ran, told by the engine itself; one of which a part did not is not among them.
"use strict";

const fs = require("node:fs");
const inspector = require("node:inspector");
const path = require("node:path");
const { fileURLToPath } = require("node:url");

const NO_CODE = /^(?:$|\/\/|\/\*|\*|[\s{}()[\];,]*$|#!)/;
const CODE = /[^\s{}()[\];,]/;
const { readFileSync, writeSync, ftruncateSync } = fs;

/** Begin to watch if the plan asks for it; what comes back stops and writes the lines down. */
function watchLines(plan) {
  if (!plan.lines_file) return () => {};
  const session = new inspector.Session();
  session.connect();
  session.post("Profiler.enable");
  session.post("Profiler.startPreciseCoverage", { callCount: true, detailed: true });
  return () => {
    session.post("Profiler.takePreciseCoverage", (error, taken) => {
      const found = error ? {} : linesOf(taken.result, fs.realpathSync(plan.folder) + path.sep);
      ftruncateSync(plan.lines_file, 0);
      writeSync(plan.lines_file, JSON.stringify(found), 0);
    });
  };
}

function linesOf(scripts, folder) {
  const found = {};
  for (const { url, functions } of scripts) {
    const file = url.startsWith("file:") ? fileURLToPath(url) : url;
    if (!file.startsWith(folder) || file.includes(`${path.sep}node_modules${path.sep}`)) continue;
    const text = readFileSync(file, "utf8");
    const counts = new Uint8Array(text.length).fill(1);
    for (const { ranges } of functions) {
      for (const { startOffset, endOffset, count } of ranges) counts.fill(count ? 1 : 0, startOffset, endOffset);
    }
    const statements = [];
    const missing = [];
    let at = 0;
    text.split("\n").forEach((line, index) => {
      if (!NO_CODE.test(line.trim())) {
        statements.push(index + 1);
        if (line.split("").some((sign, place) => CODE.test(sign) && !counts[at + place])) missing.push(index + 1);
      }
      at += line.length + 1;
    });
    found[file.slice(folder.length)] = { statements, missing };
  }
  return found;
}

module.exports = { watchLines };
