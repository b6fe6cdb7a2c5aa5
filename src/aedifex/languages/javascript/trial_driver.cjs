// Carries out the tests of a file, without a test runner, and prints which of them fail.
//
// `node trial_driver.cjs FILE ORDER`: ORDER is `forth` or `back`. What comes out is one line of JSON: the names of the
// tests that fail, each with its error.
"use strict";

const { readFileSync } = require("node:fs");
const Module = require("node:module");
const process = require("node:process");
const runner = require("node:test");

const { codeOf } = require("./replay/loading.cjs");

const MOST = 300;

const tests = [];
const before = [];
const load = Module._load;
const it = (name, test) => tests.push([name, test]);
const collected = { ...runner, test: it, it, beforeEach: (set) => before.push(set) };
Module._load = (name, ...more) => (name === "node:test" || name === "vitest" ? collected : load(name, ...more));
Object.assign(globalThis, { it, beforeEach: collected.beforeEach });

function said(error) {
  return (error instanceof Error ? `${error.name}: ${error.message}` : String(error)).split("\n")[0].slice(0, MOST);
}

/** What a test is given: something stands in for a method until it is over. */
class Context {
  constructor() {
    this.real = [];
    this.mock = { method: (owner, name, call) => this.put(owner, name, call) };
  }

  put(owner, name, call) {
    this.real.push([owner, name, owner[name]]);
    owner[name] = call;
  }

  restore() {
    for (const [owner, name, call] of this.real.reverse()) owner[name] = call;
  }
}

async function failure(test) {
  const context = new Context();
  try {
    for (const set of before) await set();
    await test(context);
  } catch (error) {
    return said(error);
  } finally {
    context.restore();
  }
  return "";
}

async function main() {
  const [file, order] = process.argv.slice(2);
  try {
    if (file.endsWith(".mjs")) new Module(file)._compile(codeOf(file, readFileSync(file, "utf8")), file);
    else require(file);
  } catch (error) {
    return { "": said(error) };
  }
  const ordered = order === "forth" ? tests : [...tests].reverse();
  const found = {};
  for (const [name, test] of [...ordered, ...ordered]) {
    const error = await failure(test); // twice, for it may leave something behind
    if (error) found[name] = error;
  }
  return found;
}

/** Say what was found, and let nothing be said behind it. */
function end(found) {
  console.log(`\n${JSON.stringify(found)}`);
  process.exit();
}

process.on("beforeExit", () => end({ "": "a test waits for something that does not come" }));
main().then(end);
