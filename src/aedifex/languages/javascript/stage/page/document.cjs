// The document of a page: its elements, and what makes new ones.
"use strict";

const { Element } = require("./elements.cjs");
const { PageEvent } = require("./events.cjs");
const { Fragment, PageNode, Text } = require("./nodes.cjs");
const { shown } = require("./shown.cjs");

const SKELETON = new Set(["html", "head", "body"]);
const OF_HEAD = new Set(["title", "meta", "link", "script", "style", "base"]);

class Document extends PageNode {
  nodeType = 9;
  nodeName = "#document";
  described = "the document";
  readyState = "loading";
  visibilityState = "visible";
  hidden = false;
  currentScript = null;
  fullscreenElement = null;
  pointerLockElement = null;
  compatMode = "CSS1Compat";
  characterSet = "UTF-8";

  constructor(world) {
    super({ world });
    this.ownerDocument = this;
    this.documentElement = this.createElement("html");
    this.head = this.createElement("head");
    this.body = this.createElement("body");
    this.place(this.documentElement, 0);
    this.documentElement.place(this.head, 0);
    this.documentElement.place(this.body, 1);
    this.activeElement = this.body;
    this.cookies = new Map();
    this.fonts = { ready: Promise.resolve(), load: () => Promise.resolve([]) };
  }

  /** Where an element of a page belongs: which of the three that each page has it is, or what it is put into. */
  homeOf(tag, parent) {
    if (SKELETON.has(tag)) return tag;
    if (parent !== this) return parent;
    return OF_HEAD.has(tag) && !this.body.children.length ? this.head : this.body;
  }

  createElement(name) {
    return new Element(this, String(name));
  }

  createElementNS(_space, name) {
    return this.createElement(name);
  }

  createTextNode(text) {
    return new Text(this, text);
  }

  createDocumentFragment() {
    return new Fragment(this);
  }

  createEvent() {
    return Object.assign(new PageEvent(""), {
      initEvent(type, bubbles) {
        Object.assign(this, { type, bubbles });
      },
    });
  }

  /** What stands for elements that are asked for and not here: none, where the whole page is. */
  makeUp() {
    return [];
  }

  getElementById(id) {
    const found = [...this.below()].find((element) => element.attributes.id === String(id));
    return found ?? this.makeUp(this, `#${id}`)[0] ?? null;
  }

  getElementsByTagName(name) {
    const found = super.getElementsByTagName(name);
    return found.length ? found : this.makeUp(this, name, { isForAll: true });
  }

  getElementsByName(name) {
    return [...this.below()].filter((element) => element.attributes.name === name);
  }

  get title() {
    return this.head.getElementsByTagName("title")[0]?.textContent ?? "";
  }

  set title(text) {
    const title = this.head.getElementsByTagName("title")[0] ?? this.head.appendChild(this.createElement("title"));
    title.textContent = text;
  }

  get cookie() {
    return [...this.cookies].map((pair) => pair.join("=")).join("; ");
  }

  set cookie(text) {
    const [name, value = ""] = String(text).split(";")[0].split("=");
    this.cookies.set(name.trim(), value.trim());
    this.note(`the cookie ${name.trim()} is ${shown(value.trim())}`);
  }

  get scripts() {
    return this.found("script");
  }

  get images() {
    return this.found("img");
  }

  get forms() {
    return this.found("form");
  }

  get outer() {
    return this.world.window;
  }

  elementFromPoint() {
    return this.found("canvas")[0] ?? this.body;
  }

  hasFocus() {
    return true;
  }

  write(text) {
    this.body.insertAdjacentHTML("beforeend", text);
  }

  writeln(text) {
    this.write(`${text}\n`);
  }

  execCommand() {
    return false;
  }

  exitPointerLock() {}

  exitFullscreen() {
    return Promise.resolve();
  }
}

module.exports = { Document };
