"use strict";

const { createRequire } = require("node:module");
const { dirname } = require("node:path");
const { compileFunction } = require("node:vm");

const { standIn, state } = require("./stand_ins.cjs");

const HARMLESS = new Set(["assert", "buffer", "events", "path", "querystring", "string_decoder", "url", "util"]);

/** The code of a script, or of all scripts in a page, without the line that starts it. */
function codeOf(file, text) {
  const scripts = [...text.matchAll(/<script\b[^>]*>(.*?)<\/script>/gis)].map(([, inside]) => inside);
  const code = /\.html?$/i.test(file) ? scripts.join("\n") : text.replace(/^#!.*/, "");
  return code.replace(/^[ \t]*new \w+\(.*\)\.\w+\(.*\);?[ \t]*$/gm, "");
}

/** The classes of some code, which finds what is outside of it by these names. */
function classesOf(code, names, outside, file) {
  const load = createRequire(file);
  const found = (name) => {
    const bare = name.replace(/^node:/, "");
    return HARMLESS.has(bare) || bare.startsWith(".") ? load(name) : standIn(bare);
  };
  const module = { exports: {} };
  const given = { require: found, module, exports: module.exports, __filename: file, __dirname: dirname(file) };
  const result = `return { ${names.join(", ")} };`;
  const whole = `return function (${Object.keys(given).join(", ")}) {${code}\n${result}\n};`;
  const run = compileFunction(`with (outside) ${whole}`, ["outside"])(outside);
  state.isLoaded = false;
  const classes = run.apply(module.exports, Object.values(given));
  state.isLoaded = true;
  return classes;
}

module.exports = { classesOf, codeOf };
