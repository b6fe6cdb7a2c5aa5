// Plays one program in one scenario: `node main.cjs PLAN`, where PLAN is the number of an open JSON file.
//
// The plan has the script's path, the folder it stands in, the scenario, limits, and the files that notes go to.
"use strict";

const fs = require("node:fs");
const Module = require("node:module");
const path = require("node:path");
const process = require("node:process");
const { syncBuiltinESMExports } = Module;
const { pathToFileURL } = require("node:url");

const { watchCalls } = require("./calls.cjs");
const { installChance } = require("./chance.cjs");
const { Clock } = require("./clock.cjs");
const { watchLines } = require("./lines.cjs");
const { Page } = require("./page/player.cjs");
const { isOfPage } = require("./page/sorts.cjs");
const { writeAnew } = require("./papers.cjs");
const { messageOf } = require("./said.cjs");
const { installStreams } = require("./streams.cjs");
const { Visitor } = require("./servers.cjs");
const { installTimes } = require("./times.cjs");
const { Trace } = require("./trace.cjs");
const { Typist } = require("./typist.cjs");
const { notCovered } = require("./uncovered.cjs");
const { installWalls } = require("./walls.cjs");

const MOST_ROUNDS = 5000;
const ROUNDS_TO_LOAD = 500;
const UNSETTLED = 13;
const IDLE = new Set(["Timeout", "Immediate", "TickObject", "TTYWrap", "Microtask"]);

const plan = JSON.parse(fs.readFileSync(Number(process.argv[2]), "utf8"));
const later = setImmediate;
const leave = process.reallyExit.bind(process);
const world = { plan, turn: 0, askedForMore: false, finish };
world.trace = new Trace(world);
const clock = (world.clock = new Clock(world));
const stopWatching = watchLines(plan);
const keepCalls = watchCalls(plan);
world.typist = plan.improvised ? new Typist(plan.improvised) : null;

const visitor = new Visitor(world);

let isOver = false;
let isLoaded = false;

/** Write down how the program ended, and leave, from wherever we are. */
function finish(ending) {
  if (isOver) return;
  isOver = true;
  stopWatching();
  keepCalls();
  if (world.typist) writeAnew(plan.heard_file, world.typist.told({ ...ending, ranOut: world.askedForMore }));
  world.trace.close({ ...ending, made_up: [...(world.madeUp ?? [])], seconds: Math.round(clock.waited) / 1000 });
  leave(ending.code);
}

/** End as `process.exit` does: whoever listens for that is told first. */
function exit(code = process.exitCode ?? 0, more = {}) {
  process.exitCode = code;
  process._exiting = true;
  try {
    process.emit("exit", Number(code));
  } catch (error) {
    more = ofError(error);
  }
  finish({ code: Number(process.exitCode ?? code) & 0xff, ...more });
}

/** What is thrown and nobody catches: the program may listen for that, or ends. */
function uncaught(error) {
  if (isOver) return;
  if (world.page) {
    world.page.fails(error);
    return;
  }
  if (process.listenerCount("uncaughtException")) {
    process.emit("uncaughtException", error, "uncaughtException");
    return;
  }
  const ending = ofError(error);
  exit(ending.code, ending);
}

/** How an uncaught error ends a program, and which library it misses. */
function ofError(error) {
  const uncovered = notCovered(error);
  if (uncovered) return { code: 1, uncovered };
  const isError = error instanceof Error;
  const missing = error?.code === "MODULE_NOT_FOUND" || error?.code === "ERR_MODULE_NOT_FOUND";
  return {
    code: 1,
    error: isError ? error.name : "a thrown value",
    message: isError ? messageOf(error).split("\n")[0] : String(error),
    missing: missing ? /'([^'./][^']*)'/.exec(error.message)?.[1] ?? "" : "",
    where: world.trace.whereOf(error),
    ran_out: false,
  };
}

/** Let promises, and what the system was asked for, come to their ends. */
async function settle() {
  for (let round = 0; round < MOST_ROUNDS; round++) {
    await new Promise((done) => later(done));
    if (process.getActiveResourcesInfo().every((kind) => IDLE.has(kind))) return;
  }
}

/** Go on as long as there is something to wait for: what is due, what is typed, what follows. */
async function drive(input) {
  for (let rounds = 0; ; ) {
    await settle();
    if (clock.runImmediates(uncaught)) continue;
    if (input.isWanted() && !clock.isDueSoon()) input.type();
    else if (visitor.sendNext()) continue;
    else if (clock.runNext(uncaught)) continue;
    else if (visitor.isWaiting) visitor.giveUp();
    else if (input.isWanted()) input.type();
    else if (world.page?.advance()) continue;
    else if (!isLoaded && rounds++ < ROUNDS_TO_LOAD) continue;
    else {
      process.emit("beforeExit", process.exitCode ?? 0);
      await settle();
      if (!clock.isBusy() && !input.isWanted()) return;
    }
  }
}

async function play() {
  if (isOfPage(plan.script)) {
    await new Page(world, input).open();
    return;
  }
  const isModule = plan.script.endsWith(".mjs") || (plan.script.endsWith(".js") && isInModulePackage(plan.script));
  if (isModule) await import(pathToFileURL(plan.script).href);
  else Module._load(plan.script, null, true);
}

/** Whether the nearest package file says that scripts are modules. */
function isInModulePackage(script) {
  for (let folder = path.dirname(script); ; folder = path.dirname(folder)) {
    const file = path.join(folder, "package.json");
    if (fs.existsSync(file)) return JSON.parse(fs.readFileSync(file, "utf8")).type === "module";
    if (folder === path.dirname(folder)) return false;
  }
}

process.argv.splice(1, process.argv.length - 1, plan.script, ...plan.arguments);
process.setUncaughtExceptionCaptureCallback(uncaught);
process.exit = process.reallyExit = exit;
const input = installStreams(world);
installTimes(clock);
installChance(plan.seed);
installWalls(world);
visitor.install();
syncBuiltinESMExports();
play()
  .catch(uncaught)
  .then(() => (isLoaded = true));
drive(input).then(() => exit(isLoaded ? process.exitCode ?? 0 : UNSETTLED));
