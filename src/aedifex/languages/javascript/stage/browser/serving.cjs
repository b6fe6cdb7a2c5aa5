// Gives a page the files that it asks for: those around it are there, all else is on other machines.
"use strict";

const { Buffer } = require("node:buffer");
const fs = require("node:fs");
const path = require("node:path");

const { isPage } = require("../page/sorts.cjs");

const ORIGIN = "http://quay.example";
const OF_A_MODULE = /^\s*(?:import|export)\b/m;
const TYPES = {
  ".css": "text/css",
  ".csv": "text/csv",
  ".gif": "image/gif",
  ".htm": "text/html",
  ".html": "text/html",
  ".jpeg": "image/jpeg",
  ".jpg": "image/jpeg",
  ".js": "text/javascript",
  ".json": "application/json",
  ".mjs": "text/javascript",
  ".png": "image/png",
  ".svg": "image/svg+xml",
  ".txt": "text/plain",
  ".wasm": "application/wasm",
  ".webp": "image/webp",
  ".xml": "application/xml",
};

/** The files of a run as addresses: below what was copied for it, or, by an address from the root, beside the page. */
class Serving {
  constructor(plan) {
    this.plan = plan;
    this.root = path.dirname(plan.home);
    this.missing = [];
    this.around = isPage(plan.script) ? null : pageAround(plan.script);
    this.page = isPage(plan.script) ? this.addressOf(plan.script) : `${this.addressOf(plan.folder)}/`;
  }

  addressOf(file) {
    return encodeURI(`${ORIGIN}/${path.relative(this.root, file).split(path.sep).join("/")}`);
  }

  /** The file at an address; null where there is none, or it is not ours. */
  fileOf(address) {
    if (!address.startsWith(`${ORIGIN}/`)) return null;
    const name = decodeURI(new URL(address).pathname).slice(1);
    const places = [path.resolve(this.root, name), path.resolve(this.plan.folder, name)];
    const isInside = (place) => place.startsWith(this.root + path.sep) && fs.existsSync(place);
    return places.find((place) => isInside(place) && fs.statSync(place).isFile()) ?? null;
  }

  /** What to answer a request with: a method of the protocol, and what goes with it. */
  answerTo({ url, method }, kind) {
    if (!url.startsWith(`${ORIGIN}/`)) {
      if (this.plan.network) return ["Fetch.continueRequest", {}];
      if (kind === "Script") this.missing.push(url);
      return ["Fetch.failRequest", { errorReason: "NameNotResolved" }];
    }
    if (url === this.page && this.around !== null) return this.filled(200, "text/html", Buffer.from(this.around));
    const file = method === "GET" ? this.fileOf(url) : null;
    if (file === null) {
      if (kind === "Script") this.missing.push(path.basename(new URL(url).pathname));
      return this.filled(404, "text/plain", Buffer.alloc(0));
    }
    const type = TYPES[path.extname(file).toLowerCase()] ?? "application/octet-stream";
    return this.filled(200, type, fs.readFileSync(file));
  }

  filled(responseCode, type, data) {
    const value = /^text|json|xml/.test(type) ? `${type}; charset=utf-8` : type;
    const responseHeaders = [{ name: "Content-Type", value }];
    return ["Fetch.fulfillRequest", { responseCode, responseHeaders, body: data.toString("base64") }];
  }
}

/** A page that has nothing but a script. */
function pageAround(script) {
  const kind = OF_A_MODULE.test(fs.readFileSync(script, "utf8")) ? ' type="module"' : "";
  return `<!DOCTYPE html><body><script${kind} src="${path.basename(script)}"></script>`;
}

module.exports = { ORIGIN, Serving };
