// What the stage does not cover, and what a program must not reach: then it is stopped, and that is said.
"use strict";

const { Buffer } = require("node:buffer");
const fs = require("node:fs");
const path = require("node:path");

const WRITING = "writeFile appendFile mkdir rm rmdir unlink truncate chmod utimes symlink".split(" ");
const TWO_PLACES = "rename copyFile link".split(" ");

function installWalls(world) {
  const stop = (what) => () => world.finish({ code: 1, uncovered: what });
  const processes = require("node:child_process");
  for (const name of ["exec", "execFile", "execFileSync", "execSync", "fork", "spawn", "spawnSync"]) {
    processes[name] = stop("other processes");
  }
  require("node:worker_threads").Worker = stop("workers");
  require("node:cluster").fork = stop("other processes");
  if (!world.plan.network) {
    require("node:net").Socket.prototype.connect = stop("the network");
    globalThis.fetch = stop("the network");
  }
  keepInside(world);
}

/** Stop a program that writes outside of its own folder and the folder for temporary files. */
function keepInside(world) {
  const inside = [world.plan.folder, world.plan.home].map((folder) => fs.realpathSync(folder) + path.sep);
  const check = (place) => {
    if (typeof place !== "string" && !(place instanceof URL) && !Buffer.isBuffer(place)) return;
    const whole = path.resolve(place instanceof URL ? place.pathname : String(place));
    if (!inside.some((folder) => `${whole}${path.sep}`.startsWith(folder)) && !whole.startsWith("/dev/")) {
      world.finish({ code: 1, outside: whole });
    }
  };
  const guard = (home, name, places) => {
    const real = home[name];
    if (!real) return;
    home[name] = function (...given) {
      given.slice(0, places).forEach(check);
      return real.apply(this, given);
    };
  };
  const open = (home, name) => {
    const real = home[name];
    home[name] = function (place, flags, ...more) {
      if (typeof flags === "string" && /[wa+]/.test(flags)) check(place);
      return real.call(this, place, flags, ...more);
    };
  };
  for (const name of [...WRITING, ...TWO_PLACES]) {
    const places = TWO_PLACES.includes(name) ? 2 : 1;
    for (const spelled of [name, `${name}Sync`]) guard(fs, spelled, places);
    guard(fs.promises, name, places);
  }
  guard(fs, "createWriteStream", 1);
  for (const [home, name] of [
    [fs, "open"],
    [fs, "openSync"],
    [fs.promises, "open"],
  ])
    open(home, name);
}

module.exports = { installWalls };
