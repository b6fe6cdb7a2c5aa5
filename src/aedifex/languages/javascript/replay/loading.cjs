"use strict";

const { readFileSync } = require("node:fs");
const { createRequire } = require("node:module");
const { dirname } = require("node:path");

const { standIn, state } = require("./stand_ins.cjs");

const HARMLESS = new Set(["assert", "buffer", "events", "path", "querystring", "string_decoder", "url", "util"]);
const IMPORT = /^import\s+(?:([^"'`;]+?)\s+from\s+)?(["'][^"']+["']);?[ \t]*$/gm;
const EXPORT = /^export\s+(default\s+)?(?=(?:async\s+)?(?:function\*?|class|const|let|var)\s+([\w$]+))/gm;
const START = /^[ \t]*new \w+\(.*\)\.\w+\(.*\);?[ \t]*$/gm;

/** The code of a script, or of all scripts in a page; what it imports and exports is written as scripts do. */
function codeOf(file, text) {
  const scripts = [...text.matchAll(/<script\b[^>]*>(.*?)<\/script>/gis)].map(([, inside]) => inside);
  const code = /\.html?$/i.test(file) ? scripts.join("\n") : text.replace(/^#!.*/, "");
  const names = [];
  const bare = code
    .replace(IMPORT, (_, taken, from) => `${taken ? `const ${bound(taken, from[1] === ".")} = ` : ""}require(${from});`)
    .replace(EXPORT, (_, isDefault, name) => (names.push([isDefault ? "default" : name, name]), ""));
  return bare + names.map(([name, own]) => `\nexports.${name} = ${own};`).join("");
}

/** What an import binds, as a pattern; what others than the program hand out by default is all that they do. */
function bound(taken, isOwn) {
  const [, whole, listed = ""] = /^(?:([\w$]+)\s*,?\s*)?(\{[^]*\}|\*[^]*)?$/.exec(taken) ?? [];
  const names = listed.replace(/\s+as\s+/g, ": ").replace(/^\*: /, "");
  if (whole === undefined) return names;
  if (!isOwn) return names ? `${whole} = ${names}` : whole;
  return names ? `{ default: ${whole}, ${names.slice(1)}` : `{ default: ${whole} }`;
}

/** The classes of a program by file, without the line that starts it; code finds what is outside of it by these names. */
function classesOf(files, outside, textOf = (file) => readFileSync(file, "utf8")) {
  const classes = {};
  const modules = new Map();
  const load = (file) => {
    if (modules.has(file)) return modules.get(file).exports;
    const module = { exports: {} };
    modules.set(file, module);
    const near = createRequire(file);
    const found = (name) => {
      const bare = name.replace(/^node:/, "");
      if (!bare.startsWith(".")) return HARMLESS.has(bare) ? near(name) : standIn(bare);
      const there = near.resolve(name);
      return there in files || /^(?:import|export)\b/m.test(textOf(there)) ? load(there) : near(name);
    };
    const given = { require: found, module, exports: module.exports, __filename: file, __dirname: dirname(file) };
    const code = codeOf(file, textOf(file)).replace(START, "");
    const result = `return { ${(files[file] ?? []).join(", ")} };`;
    const whole = `return function (${Object.keys(given).join(", ")}) {${code}\n${result}\n};`;
    const run = new Function("outside", `with (outside) ${whole}`)(outside);
    Object.assign(classes, run.apply(module.exports, Object.values(given)));
    return module.exports;
  };
  state.isLoaded = false;
  for (const file of Object.keys(files)) load(file);
  state.isLoaded = true;
  return classes;
}

module.exports = { classesOf, codeOf };
