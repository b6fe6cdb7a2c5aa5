// Chance that is the same in each run of a scenario.
"use strict";

const { Buffer } = require("node:buffer");
const crypto = require("node:crypto");
const process = require("node:process");

const { dice } = require("../replay/chance.cjs");

function installChance(seed) {
  Math.random = dice(seed);
  const drawn = dice(seed + 1);
  const fill = (target) => {
    const bytes = new Uint8Array(target.buffer ?? target, target.byteOffset ?? 0, target.byteLength);
    for (let at = 0; at < bytes.length; at++) bytes[at] = Math.floor(drawn() * 256);
    return target;
  };
  const answered = (value, call) => {
    if (!call) return value;
    process.nextTick(call, null, value);
    return undefined;
  };
  crypto.randomBytes = (size, call) => answered(fill(Buffer.alloc(size)), call);
  crypto.randomFillSync = fill;
  crypto.randomInt = (low, high, call) => {
    const [from, to, then] = typeof high === "number" ? [low, high, call] : [0, low, high];
    return answered(from + Math.floor(drawn() * (to - from)), then);
  };
  crypto.randomUUID = () => {
    const bytes = fill(Buffer.alloc(16));
    bytes[6] = (bytes[6] & 0x0f) | 0x40;
    bytes[8] = (bytes[8] & 0x3f) | 0x80;
    return bytes.toString("hex").replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
  };
  const web = Object.getPrototypeOf(crypto.webcrypto);
  for (const [name, value] of Object.entries({ getRandomValues: fill, randomUUID: crypto.randomUUID })) {
    Object.defineProperty(web, name, { configurable: true, writable: true, value });
  }
}

module.exports = { installChance };
