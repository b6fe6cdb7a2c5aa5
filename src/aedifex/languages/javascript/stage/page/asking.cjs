// Files that a page asks for while it runs: those of its folder are there, all else is on other machines.
"use strict";

const { Buffer } = require("node:buffer");
const fs = require("node:fs");
const path = require("node:path");

const { Target } = require("./events.cjs");

const OWN = /^https?:\/\/quay\.example\//;
const ELSEWHERE = /^(?:[a-z][a-z0-9+.-]*:)?\/\//i;
const DONE = 4;
const TYPES = { ".json": "application/json", ".html": "text/html", ".svg": "image/svg+xml", ".xml": "application/xml" };

/** The text of a file that a page asks for by its address; null where there is none. */
function fileAt(world, address) {
  const name = decodeURI(String(address).replace(OWN, "").split(/[?#]/)[0]);
  const file = path.resolve(path.dirname(world.plan.script), name.replace(/^\//, ""));
  const isInside = `${file}${path.sep}`.startsWith(path.dirname(world.plan.script) + path.sep);
  if (ELSEWHERE.test(name) || !isInside) world.notCovered("the network");
  return fs.existsSync(file) && fs.statSync(file).isFile() ? fs.readFileSync(file) : null;
}

function typeOf(address) {
  return TYPES[path.extname(String(address).split(/[?#]/)[0]).toLowerCase()] ?? "text/plain";
}

/** What pages asked by before they had `fetch`. */
function requestsOf(world) {
  return class XMLHttpRequest extends Target {
    constructor() {
      super();
      Object.assign(this, { readyState: 0, status: 0, statusText: "", response: "", responseText: "", responseType: "" });
    }

    get world() {
      return world;
    }

    open(method, address, waits = true) {
      Object.assign(this, { method: String(method).toUpperCase(), address, waits, readyState: 1 });
    }

    setRequestHeader() {}

    overrideMimeType() {}

    abort() {
      this.isGone = true;
    }

    send() {
      world.trace.add("page", `asks for ${this.address}`);
      if (this.method !== "GET") world.notCovered("the network");
      const found = fileAt(world, this.address);
      if (this.waits) globalThis.setTimeout(() => this.isGone || this.answers(found), 1);
      else this.answers(found);
    }

    answers(found) {
      this.status = found ? 200 : 404;
      this.statusText = found ? "OK" : "Not Found";
      const text = found ? found.toString("utf8") : "";
      if (this.responseType === "json") this.response = found ? JSON.parse(text) : null;
      else if (this.responseType === "arraybuffer") this.response = found ? new Uint8Array(found).buffer : null;
      else this.response = this.responseText = text;
      this.readyState = DONE;
      for (const type of ["readystatechange", "load", "loadend"]) world.happens(this, type);
    }

    getResponseHeader(name) {
      return name.toLowerCase() === "content-type" ? typeOf(this.address) : null;
    }

    getAllResponseHeaders() {
      return `content-type: ${typeOf(this.address)}\r\n`;
    }
  };
}

/** What `fetch` gives. */
class Answer {
  constructor(address, found) {
    const [status, statusText] = found ? [200, "OK"] : [404, "Not Found"];
    Object.assign(this, { url: String(address), status, statusText, ok: Boolean(found), redirected: false });
    Object.defineProperty(this, "data", { value: found ?? Buffer.alloc(0) });
    this.headers = { get: (name) => (name.toLowerCase() === "content-type" ? typeOf(address) : null) };
  }

  async text() {
    return this.data.toString("utf8");
  }

  async json() {
    return JSON.parse(await this.text());
  }

  async arrayBuffer() {
    return new Uint8Array(this.data).buffer;
  }

  clone() {
    return new Answer(this.url, this.ok ? this.data : null);
  }
}

/** `fetch`: the answer is there a moment later. */
function fetchOf(world) {
  return (asked, { method = "GET" } = {}) => {
    const address = asked?.url ?? String(asked);
    world.trace.add("page", `asks for ${address}`);
    if (method.toUpperCase() !== "GET") world.notCovered("the network");
    const found = fileAt(world, address);
    return new Promise((done) => globalThis.setTimeout(() => done(new Answer(address, found)), 1));
  };
}

module.exports = { fetchOf, fileAt, requestsOf };
