// The files without names by which a run tells what it noted, besides its trace.
"use strict";

const { ftruncateSync, writeSync } = require("node:fs");

/** Let a file, open under a number, hold a value and nothing else. */
function writeAnew(handle, value) {
  ftruncateSync(handle, 0);
  writeSync(handle, JSON.stringify(value), 0);
}

module.exports = { writeAnew };
