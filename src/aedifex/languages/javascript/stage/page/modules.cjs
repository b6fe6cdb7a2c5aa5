// Modules of a page: each file is carried out once, after those that it imports.
"use strict";

const fs = require("node:fs");
const path = require("node:path");
const vm = require("node:vm");

const BESIDE = /^\.{0,2}\//;

class Modules {
  constructor(page) {
    this.page = page;
    this.known = new Map(); // by file
    this.named = {};
  }

  /** What a page says of the files that stand behind names. */
  learn(text) {
    Object.assign(this.named, JSON.parse(text).imports);
  }

  async carryOut(text, file) {
    await this.begun(this.made(text, file));
  }

  async load(file) {
    return this.begun(this.of(file));
  }

  made(text, file) {
    return new vm.SourceTextModule(text, {
      identifier: file,
      initializeImportMeta: (meta) => (meta.url = this.addressOf(file)),
      importModuleDynamically: (name) => this.begun(this.at(name, file)),
    });
  }

  async begun(module) {
    if (module.status === "unlinked") await module.link((name, by) => this.at(name, by.identifier));
    await module.evaluate();
    return module;
  }

  /** The module that a file imports under a name. */
  at(name, file) {
    const { folder, world } = this.page;
    const named = this.named[name] ?? this.prefixed(name);
    const spelled = named ?? name;
    const isOfPage = named !== undefined || spelled.startsWith("/");
    const found = path.join(isOfPage ? folder : path.dirname(file), spelled);
    if (!BESIDE.test(spelled) || !fs.existsSync(found)) world.notCovered(`what is not here (the module \`${name}\`)`);
    return this.of(found);
  }

  of(file) {
    if (!this.known.has(file)) this.known.set(file, this.made(fs.readFileSync(file, "utf8"), file));
    return this.known.get(file);
  }

  /** What stands behind a name whose beginning is named. */
  prefixed(name) {
    const start = Object.keys(this.named).find((each) => each.endsWith("/") && name.startsWith(each));
    return start && this.named[start] + name.slice(start.length);
  }

  addressOf(file) {
    return new URL(path.relative(this.page.folder, file), globalThis.location.href).href;
  }
}

module.exports = { Modules };
