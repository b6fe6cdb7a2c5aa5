// Servers that answer requests: they are given those of the scenario in this process, and never a socket.
"use strict";

const { Buffer } = require("node:buffer");
const http = require("node:http");
const net = require("node:net");
const process = require("node:process");
const { Duplex } = require("node:stream");

const UNSTABLE = new Set(["connection", "date", "keep-alive", "transfer-encoding"]);
const VARYING = new Set([...UNSTABLE, "content-length", "etag"]);
const BORDER = "aedifex-quay-wall";
/** A line that tells where an error came by, in a text or in a page. */
const FRAME = /(?:<br>(?:\s|&nbsp;)*|(?:\n|\\n)[^\S\n]+)at [^\n<"]*(?::\d+:\d+\)?|\((?:<|&lt;)anonymous(?:>|&gt;)\))/g;
const ADDRESS = { address: "127.0.0.1", family: "IPv4", port: 3000 };

/** One connection: what the server writes is kept, what a visitor sends is there at once. */
class Connection extends Duplex {
  constructor(sent) {
    super({ allowHalfOpen: true });
    this.received = [];
    this.push(sent);
    Object.assign(this, { remoteAddress: ADDRESS.address, remotePort: 50000, localPort: ADDRESS.port });
    for (const name of ["setTimeout", "setNoDelay", "setKeepAlive", "ref", "unref"]) this[name] = () => this;
    this.address = () => ADDRESS;
  }

  _read() {}

  _write(data, _encoding, done) {
    this.received.push(Buffer.from(data));
    done();
  }
}

/** Sends the scenario's requests one after the other, and keeps cookies between them. */
class Visitor {
  constructor(world) {
    this.world = world;
    this.requests = world.plan.events.filter((event) => "request" in event).sort((one, two) => one.turn - two.turn);
    this.server = null;
    this.connection = null;
    this.cookies = new Map();
  }

  install() {
    const visitor = this;
    net.Server.prototype.listen = function (...given) {
      if (!(this instanceof http.Server)) visitor.world.finish({ code: 1, uncovered: "a server of its own sort" });
      visitor.server = this;
      const call = given.findLast((one) => typeof one === "function");
      if (call) this.once("listening", call);
      Object.defineProperty(this, "listening", { configurable: true, value: true });
      this.address = () => ADDRESS;
      process.nextTick(() => this.emit("listening"));
      return this;
    };
    net.Server.prototype.close = function (done) {
      if (visitor.server === this) visitor.server = null;
      process.nextTick(() => this.emit("close"));
      if (done) process.nextTick(done);
      return this;
    };
  }

  /** Whether an answer is waited for. */
  get isWaiting() {
    return this.connection !== null;
  }

  /** Send the next request, if there is a server and one is left. */
  sendNext() {
    if (!this.server || this.isWaiting || !this.requests.length) return false;
    const event = this.requests.shift();
    const [, method, target] = /^(\S+) (.*)$/.exec(event.request);
    this.world.trace.add("request", `${method} ${target}`);
    const connection = (this.connection = new Connection(this.text(method, target, event)));
    const done = () => this.answered(connection);
    connection.once("finish", done).once("close", done).once("error", done);
    this.server.emit("connection", connection);
    return true;
  }

  /** No answer comes, though nothing else is to be done. */
  giveUp() {
    this.world.trace.add("answer", "no answer");
    this.connection.destroy();
    this.connection = null;
  }

  text(method, target, event) {
    const headers = { Host: "localhost", Accept: "*/*", Connection: "close" };
    let body = Buffer.from(event.body ?? "");
    if (event.files) {
      headers["Content-Type"] = `multipart/form-data; boundary=${BORDER}`;
      body = Buffer.from(multipart(event));
    } else if (event.form) {
      headers["Content-Type"] = "application/x-www-form-urlencoded";
      body = Buffer.from(new URLSearchParams(event.form).toString());
    } else if (event.json !== undefined) {
      headers["Content-Type"] = "application/json";
      body = Buffer.from(JSON.stringify(event.json));
    }
    if (body.length) headers["Content-Length"] = body.length;
    if (this.cookies.size) headers.Cookie = [...this.cookies].map((pair) => pair.join("=")).join("; ");
    Object.assign(headers, event.headers);
    const lines = Object.entries(headers).map(([name, value]) => `${name}: ${value}\r\n`);
    return Buffer.concat([Buffer.from(`${method} ${target} HTTP/1.1\r\n${lines.join("")}\r\n`), body]);
  }

  answered(connection) {
    if (this.connection !== connection) return;
    this.connection = null;
    const whole = Buffer.concat(connection.received).toString("utf8");
    const end = whole.indexOf("\r\n\r\n");
    if (end < 0) {
      this.world.trace.add("answer", "no answer");
      return;
    }
    const [status, ...lines] = whole.slice(0, end).split("\r\n");
    const headers = lines.map((line) => /^([^:]+):\s*(.*)$/.exec(line).slice(1));
    const isChunked = headers.some(([name, value]) => name.toLowerCase() === "transfer-encoding" && value === "chunked");
    for (const [name, value] of headers) if (name.toLowerCase() === "set-cookie") this.remember(value);
    const sent = whole.slice(end + 4);
    const all = isChunked ? joined(sent) : sent;
    const body = all.replace(FRAME, "");
    const varying = body === all ? UNSTABLE : VARYING;
    const stable = headers.filter(([name]) => !varying.has(name.toLowerCase())).map((pair) => pair.join(": "));
    const { trace } = this.world;
    trace.add("answer", [status.replace(/^HTTP\/1\.\d /, ""), ...stable.sort()].join("\n"));
    for (const line of body.split(/(?<=\n)/)) if (line) trace.add("answer", line);
  }

  remember(cookie) {
    const [, name, value, more] = /^([^=]+)=([^;]*)(.*)$/.exec(cookie) ?? [];
    if (name && /max-age=0|expires=Thu, 01 Jan 1970/i.test(more)) this.cookies.delete(name);
    else if (name) this.cookies.set(name, value);
  }
}

/** A body that came in pieces, each with its length before it. */
function joined(text) {
  let bytes = Buffer.from(text);
  const found = [];
  for (;;) {
    const end = bytes.indexOf("\r\n");
    const size = end < 0 ? 0 : parseInt(bytes.subarray(0, end).toString(), 16);
    if (!size) return Buffer.concat(found).toString("utf8");
    found.push(bytes.subarray(end + 2, end + 2 + size));
    bytes = bytes.subarray(end + 4 + size);
  }
}

function multipart({ form = {}, files }) {
  const part = (head, text) => `--${BORDER}\r\nContent-Disposition: form-data; ${head}\r\n\r\n${text}\r\n`;
  const fields = Object.entries(form).map(([name, text]) => part(`name="${name}"`, text));
  const sent = Object.entries(files).map(([name, file]) => part(`name="${name}"; filename="${file.name}"`, file.text));
  return `${[...fields, ...sent].join("")}--${BORDER}--\r\n`;
}

module.exports = { Visitor };
