// Talks with a browser over two pipes, as its debugging protocol has it: texts of JSON with a zero byte behind each.
"use strict";

const { spawn } = require("node:child_process");
const { EventEmitter } = require("node:events");
const fs = require("node:fs");
const process = require("node:process");

const OPTIONS = `--headless --remote-debugging-pipe --no-sandbox --no-first-run --no-default-browser-check --mute-audio
  --use-angle=swiftshader --enable-unsafe-swiftshader --disable-background-networking --disable-component-update
  --disable-extensions --disable-sync --disable-breakpad --disable-domain-reliability --hide-scrollbars
  --disable-features=Translate,OptimizationHints,MediaRouter --force-color-profile=srgb --password-store=basic
  --autoplay-policy=no-user-gesture-required --force-device-scale-factor=1`.split(/\s+/);
const HOMES = ["HOME", "TMPDIR", "XDG_CACHE_HOME", "XDG_CONFIG_HOME", "XDG_RUNTIME_DIR"];
const MOST_ROUNDS = 100;
const ROUND = 20;
const READS = 3;
const WRITES = 4;

/** A browser without a window, whose profile is in a folder of its own that goes with it. */
class Browser extends EventEmitter {
  constructor(command, profile) {
    super();
    this.profile = profile;
    this.waiting = new Map();
    this.count = 0;
    this.open = "";
    const own = Object.fromEntries(HOMES.map((name) => [name, profile]));
    fs.mkdirSync(profile);
    this.process = spawn(command, [...OPTIONS, `--user-data-dir=${profile}`, "about:blank"], {
      detached: true, // a group of its own, which ends as one
      env: { ...process.env, ...own },
      stdio: ["ignore", "ignore", "pipe", "pipe", "pipe"],
    });
    this.said = "";
    this.process.stderr.on("data", (data) => (this.said = (this.said + data).slice(-2000)));
    this.process.on("error", () => this.emit("gone"));
    this.process.on("exit", () => this.emit("gone"));
    this.process.stdio[READS].on("error", () => {});
    this.process.stdio[WRITES].setEncoding("utf8").on("data", (data) => this.hear(data));
  }

  /** Ask for something; the answer is there later, null where it was refused. */
  ask(method, params = {}, session = this.session) {
    const id = ++this.count;
    this.process.stdio[READS].write(`${JSON.stringify({ id, method, params, sessionId: session })}\0`);
    return new Promise((done) => this.waiting.set(id, done));
  }

  hear(data) {
    const texts = (this.open + data).split("\0");
    this.open = texts.pop();
    for (const text of texts) {
      const { id, result, method, params } = JSON.parse(text);
      if (id) {
        this.waiting.get(id)(result ?? null);
        this.waiting.delete(id);
      } else if (method) this.emit(method, params);
    }
  }

  /** Open an empty page; from now on it is asked. */
  async openPage() {
    const { targetId } = await this.ask("Target.createTarget", { url: "about:blank" });
    const { sessionId } = await this.ask("Target.attachToTarget", { targetId, flatten: true });
    this.session = sessionId;
  }

  /** End it, with all that it has left. */
  async close() {
    this.removeAllListeners();
    if (this.process.exitCode === null && this.process.pid) {
      const ended = new Promise((done) => this.process.once("exit", done));
      process.kill(-this.process.pid, "SIGKILL");
      await ended;
    }
    await this.clear();
  }

  /** Take its profile away: its processes may write there for a moment after they have been told to end. */
  async clear() {
    for (let round = 0; round < MOST_ROUNDS; round++) {
      try {
        fs.rmSync(this.profile, { recursive: true, force: true });
        return;
      } catch {
        await new Promise((done) => setTimeout(done, ROUND));
      }
    }
  }
}

module.exports = { Browser };
