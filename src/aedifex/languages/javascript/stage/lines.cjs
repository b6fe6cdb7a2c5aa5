// Which lines of the program ran, told by the engine itself; one of which a part did not is not among them.
"use strict";

const fs = require("node:fs");
const inspector = require("node:inspector");
const path = require("node:path");
const { fileURLToPath } = require("node:url");

const { writeAnew } = require("./papers.cjs");

const NO_CODE = /^(?:$|\/\/|\/\*|\*|[\s{}()[\];,]*$|#!)/;
const CODE = /[^\s{}()[\];,]/;
const LIBRARY = 200_000; // in letters: what is longer is a library's
const { readFileSync } = fs;

/** Begin to watch if the plan asks for it; what comes back stops and writes the lines down. */
function watchLines(plan) {
  if (!plan.lines_file) return () => {};
  const session = new inspector.Session();
  session.connect();
  session.post("Profiler.enable");
  session.post("Profiler.startPreciseCoverage", { callCount: true, detailed: true });
  return () => {
    session.post("Profiler.takePreciseCoverage", (error, taken) => writeLines(plan, error ? [] : taken.result));
  };
}

/** Write down the lines of scripts that ran, by what the engine counted. */
function writeLines(plan, scripts) {
  writeAnew(plan.lines_file, linesOf(plan, scripts, fs.realpathSync(plan.folder) + path.sep));
}

/** The code of files in which something else stands, too, with that blanked out. */
const codes = new Map();

function linesOf(plan, scripts, folder) {
  const seen = new Map();
  for (const { url, functions } of scripts) {
    const file = url.startsWith("file:") ? fileURLToPath(url) : url;
    if (!file.startsWith(folder) || file.includes(`${path.sep}node_modules${path.sep}`)) continue;
    const text = codes.get(file) ?? readFileSync(file, "utf8");
    if (text.length > LIBRARY && file !== fs.realpathSync(plan.script)) continue;
    const own = new Uint8Array(text.length).fill(1);
    for (const { ranges } of functions) {
      for (const { startOffset, endOffset, count } of ranges) own.fill(count ? 1 : 0, startOffset, endOffset);
    }
    const others = seen.get(file)?.counts; // of the other scripts of the same page
    seen.set(file, { text, counts: others ? own.map((ran, at) => ran & others[at]) : own });
  }
  return Object.fromEntries([...seen].map(([file, one]) => [file.slice(folder.length), told(one.text, one.counts)]));
}

function told(text, counts) {
  const statements = [];
  const missing = [];
  let at = 0;
  text.split("\n").forEach((line, index) => {
    if (!NO_CODE.test(line.trim())) {
      statements.push(index + 1);
      const begin = at;
      if (line.split("").some((sign, place) => CODE.test(sign) && !counts[begin + place])) missing.push(index + 1);
    }
    at += line.length + 1;
  });
  return { statements, missing };
}

module.exports = { codes, watchLines, writeLines };
