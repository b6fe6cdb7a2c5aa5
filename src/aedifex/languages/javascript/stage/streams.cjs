// The standard streams: typed lines come from the scenario, everything printed goes to the trace.
"use strict";

const { Buffer } = require("node:buffer");
const fs = require("node:fs");
const process = require("node:process");
const { Readable } = require("node:stream");

const { TypedLines } = require("./typed.cjs");

const INPUTS = new Set([0, "/dev/stdin"]);

/** Put streams that write into the trace in place of the standard ones; give back what types. */
function installStreams(world) {
  for (const [number, stream, kind] of [
    [1, process.stdout, "out"],
    [2, process.stderr, "err"],
  ]) {
    stream.write = (data, encoding, done) => {
      say(world, kind, data, encoding);
      const call = typeof encoding === "function" ? encoding : done;
      if (call) process.nextTick(call);
      return true;
    };
    patchWriting(world, number, kind);
  }
  const keyboard = new Keyboard(world);
  Object.defineProperty(process, "stdin", { configurable: true, enumerable: true, get: () => keyboard.stream });
  patchReading(keyboard);
  return keyboard;
}

function say(world, kind, data, encoding) {
  const text =
    typeof data === "string" ? data : Buffer.from(data).toString(typeof encoding === "string" ? encoding : "utf8");
  if (text) world.trace.add(kind, text);
}

function patchWriting(world, number, kind) {
  const { writeSync, writeFileSync } = fs;
  fs.writeSync = (handle, data, ...more) => {
    if (handle !== number) return writeSync(handle, data, ...more);
    say(world, kind, typeof data === "string" ? data : partOf(data, ...more));
    return Buffer.byteLength(data);
  };
  fs.writeFileSync = (file, data, ...more) => {
    if (file !== number) return writeFileSync(file, data, ...more);
    say(world, kind, data);
    return undefined;
  };
}

function partOf(data, offset = 0, length = data.length - offset) {
  return Buffer.from(data.buffer, data.byteOffset + offset, length);
}

/** Types the scenario's lines one by one, when the program waits for them. */
class Keyboard extends TypedLines {
  constructor(world) {
    super(world, fs.readFileSync(0, "utf8"));
    this.waits = false;
    this.stream = new Readable({ highWaterMark: 1, read: () => (this.waits = true) });
    Object.assign(this.stream, { fd: 0, isTTY: false, ref: () => this.stream, unref: () => this.stream });
  }

  /** Whether the program waits for something to be typed. */
  isWanted() {
    const listens = this.stream.listenerCount("data") + this.stream.listenerCount("readable") > 0;
    return this.waits && listens && !this.stream.isPaused() && !this.stream.destroyed;
  }

  type() {
    this.waits = false;
    const line = this.next();
    this.stream.push(line || null);
  }

  /** All that is typed until the end. */
  rest() {
    let text = "";
    for (let line = this.next(); line; line = this.next()) text += line;
    return text;
  }
}

function patchReading(keyboard) {
  const { readSync, readFileSync } = fs;
  let open = Buffer.alloc(0);
  fs.readSync = (handle, target, ...more) => {
    if (handle !== 0) return readSync(handle, target, ...more);
    const options = typeof more[0] === "object" ? more[0] ?? {} : { offset: more[0], length: more[1] };
    if (!open.length) open = Buffer.from(keyboard.next());
    const { offset = 0, length = target.byteLength - offset } = options;
    const count = open.copy(Buffer.from(target.buffer, target.byteOffset, target.byteLength), offset, 0, length);
    open = open.subarray(count);
    return count;
  };
  fs.readFileSync = (file, options) => {
    if (!INPUTS.has(file)) return readFileSync(file, options);
    const encoding = typeof options === "string" ? options : options?.encoding;
    const text = Buffer.from(keyboard.rest());
    return encoding ? text.toString(encoding) : text;
  };
}

module.exports = { installStreams };
