// Writing down what a program does to the outside world, as it happens: a line of JSON for each entry.
"use strict";

const { Buffer } = require("node:buffer");
const { createHash } = require("node:crypto");
const fs = require("node:fs");
const path = require("node:path");
const { fileURLToPath } = require("node:url");

const TOGETHER = 1 << 16;
const LONGEST = 1 << 20;
const FRAMES = 60;

const writeSync = fs.writeSync;

class Trace {
  constructor(world) {
    this.world = world;
    this.handle = world.plan.trace;
    this.folder = fs.realpathSync(world.plan.folder) + path.sep;
    this.left = world.plan.entries;
    this.waiting = "";
  }

  /** Add an entry: what kind, what was done, the source line that caused it, and in which thread, the only one. */
  add(kind, text) {
    this.put(kind, text, this.where(new Error()));
  }

  /** Add an entry of which the source line is known. */
  put(kind, text, where) {
    if (--this.left < 0) this.world.finish({ code: 0, stopped: "stopped: it did more than is written down" });
    this.write([kind, text.length > LONGEST ? shortened(text) : text, where, ""]);
  }

  write(entry) {
    this.waiting += `${JSON.stringify(entry)}\n`;
    if (this.waiting.length > TOGETHER) this.flush();
  }

  flush() {
    let data = Buffer.from(this.waiting);
    this.waiting = "";
    while (data.length) data = data.subarray(writeSync(this.handle, data));
  }

  /** File and line, within the program's folder, of the innermost frame of the program itself. */
  where(error) {
    for (const frame of framesOf(error)) {
      const name = frame.getFileName() ?? "";
      const file = name.startsWith("file:") ? fileURLToPath(name) : name;
      if (file.startsWith(this.folder)) return `${file.slice(this.folder.length)}:${frame.getLineNumber()}`;
    }
    return "";
  }

  /** File and line where an error was thrown, as its text tells. */
  whereOf(error) {
    const lines = String(error?.stack ?? "").split("\n");
    for (const line of lines) {
      const at = line.indexOf(this.folder);
      const found = at < 0 ? null : /^(.*?):(\d+)/.exec(line.slice(at + this.folder.length));
      if (found) return `${found[1]}:${found[2]}`;
    }
    return "";
  }

  close(ending) {
    this.write(["end", JSON.stringify(ending), ending.where ?? "", ""]);
    this.flush();
  }
}

/** The frames of an error that has just been made, whatever the program does with such. */
function framesOf(error) {
  const { prepareStackTrace, stackTraceLimit } = Error;
  Error.prepareStackTrace = (_, frames) => frames;
  Error.stackTraceLimit = FRAMES;
  try {
    Error.captureStackTrace(error);
    return Array.isArray(error.stack) ? error.stack : [];
  } finally {
    Object.assign(Error, { prepareStackTrace, stackTraceLimit });
  }
}

function shortened(text) {
  const digest = createHash("sha256").update(text).digest("hex").slice(0, 16);
  return `${text.slice(0, 80)}… ${text.length} characters, ${digest}`;
}

module.exports = { Trace };
