// Elements of a page: their attributes, their texts, what they do.
"use strict";

const { contextOf } = require("./canvas.cjs");
const { VOID, build, escaped } = require("./html.cjs");
const { datasetOf, styleOf } = require("./looks.cjs");
const { ELEMENT, Fragment, PageNode } = require("./nodes.cjs");
const { shown } = require("./shown.cjs");

const REFLECTED = "id title href src alt type name placeholder htmlFor target rel lang dir max min step".split(" ");
const SPELLED = { htmlFor: "for", className: "class" };
const TRUTHS = ["hidden", "disabled", "readOnly", "required", "autofocus", "multiple", "selected", "contentEditable"];
const SIZES = { width: 300, height: 150 };
const BOX = { x: 0, y: 0, left: 0, top: 0 };

class Element extends PageNode {
  nodeType = ELEMENT;
  attributes = {};
  scrollTop = 0;
  scrollLeft = 0;

  constructor(document, name) {
    super(document);
    this.localName = name.toLowerCase();
    this.tagName = this.nodeName = name.toUpperCase();
    this.style = styleOf(this);
    this.dataset = datasetOf(this);
  }

  get described() {
    const { id, class: names } = this.attributes;
    return this.localName + (id ? `#${id}` : names ? `.${names.trim().split(/\s+/).join(".")}` : "");
  }

  get outline() {
    return this.outerHTML;
  }

  bareCopy() {
    const copy = new Element(this.ownerDocument, this.localName);
    copy.attributes = { ...this.attributes };
    return copy;
  }

  // -- attributes

  getAttribute(name) {
    return this.attributes[name.toLowerCase()] ?? null;
  }

  hasAttribute(name) {
    return name.toLowerCase() in this.attributes;
  }

  setAttribute(name, value) {
    this.attributes[name.toLowerCase()] = String(value);
    this.note(`${name} of ${this.described} is ${shown(String(value))}`);
    if (name === "src") this.world.load(this);
  }

  removeAttribute(name) {
    delete this.attributes[name.toLowerCase()];
    this.note(`${this.described} has no ${name}`);
  }

  toggleAttribute(name, isWanted = !this.hasAttribute(name)) {
    if (isWanted) this.setAttribute(name, "");
    else this.removeAttribute(name);
    return isWanted;
  }

  get className() {
    return this.attributes.class ?? "";
  }

  set className(names) {
    this.setAttribute("class", names);
  }

  get classList() {
    const names = this.className.split(/\s+/).filter(Boolean);
    const set = (wanted) => wanted.join(" ") !== this.className && this.setAttribute("class", wanted.join(" "));
    const list = Object.assign([...names], {
      contains: (name) => names.includes(name),
      add: (...more) => set([...new Set([...names, ...more])]),
      remove: (...gone) => set(names.filter((name) => !gone.includes(name))),
      replace: (one, other) => set(names.map((name) => (name === one ? other : name))),
      item: (at) => names[at] ?? null,
      toggle: (name, isWanted = !names.includes(name)) => {
        set(isWanted ? [...new Set([...names, name])] : names.filter((other) => other !== name));
        return isWanted;
      },
    });
    Object.defineProperty(list, "value", { get: () => this.className });
    return list;
  }

  get value() {
    if (this.localName === "select") return this.chosen?.value ?? "";
    return this.typed ?? this.attributes.value ?? (this.localName === "option" ? this.textContent : "");
  }

  set value(text) {
    if (this.localName === "select") this.picked = this.options.find((option) => option.value === String(text));
    else this.typed = String(text);
    this.note(`the value of ${this.described} is ${shown(String(text))}`);
  }

  get valueAsNumber() {
    return Number(this.value || NaN);
  }

  get checked() {
    return this.isChecked ?? "checked" in this.attributes;
  }

  set checked(value) {
    this.isChecked = Boolean(value);
    this.note(`${this.described} is ${value ? "checked" : "not checked"}`);
  }

  get options() {
    return this.getElementsByTagName("option");
  }

  /** Give a list one more option. */
  add(option, before = null) {
    this.insertBefore(option, typeof before === "number" ? this.options[before] ?? null : before);
  }

  get chosen() {
    return this.picked ?? this.options.find((option) => option.hasAttribute("selected")) ?? this.options[0];
  }

  get selectedIndex() {
    return this.options.indexOf(this.chosen);
  }

  // -- texts

  get innerText() {
    return this.textContent;
  }

  set innerText(text) {
    this.textContent = text;
  }

  get innerHTML() {
    return this.childNodes.map((node) => node.outerHTML).join("");
  }

  set innerHTML(text) {
    for (const node of this.childNodes) node.parentNode = null;
    this.childNodes = [];
    build(this.ownerDocument, this, String(text));
    this.note(`${this.described} holds ${shown(String(text))}`);
  }

  insertAdjacentHTML(where, text) {
    const holder = new Fragment(this.ownerDocument);
    build(this.ownerDocument, holder, String(text));
    this.insertAdjacentElement(where, holder);
  }

  insertAdjacentElement(where, node) {
    const ways = { beforebegin: "before", afterbegin: "prepend", beforeend: "append", afterend: "after" };
    this[ways[where.toLowerCase()]](node);
    return node;
  }

  get outerHTML() {
    const given = Object.entries(this.attributes).map(([name, value]) => ` ${name}="${escaped(value)}"`);
    const style = String(this.style) && !("style" in this.attributes) ? ` style="${this.style}"` : "";
    const head = `<${this.localName}${given.join("")}${style}>`;
    return VOID.has(this.localName) ? head : `${head}${this.innerHTML}</${this.localName}>`;
  }

  // -- looking for it

  matches(selector) {
    const parts = selector
      .trim()
      .split(/\s*(>)\s*|\s+/)
      .filter(Boolean);
    let element = this;
    if (!element.matchesOne(parts.pop())) return false;
    while (parts.length) {
      const isChild = parts.at(-1) === ">" && parts.pop();
      const wanted = parts.pop();
      element = element.parentElement;
      while (element && !isChild && !element.matchesOne(wanted)) element = element.parentElement;
      if (!element?.matchesOne(wanted)) return false;
    }
    return true;
  }

  matchesOne(selector) {
    const known = /^(?:[\w*-]+|#[\w-]+|\.[\w-]+|\[[^\]]+\]|:[\w-]+(?:\([^)]*\))?)/;
    for (let rest = selector; rest; ) {
      const part = known.exec(rest)?.[0];
      if (!part) throw new SyntaxError(`'${selector}' is not a valid selector.`);
      rest = rest.slice(part.length);
      if (!this.hasPart(part)) return false;
    }
    return true;
  }

  hasPart(part) {
    const name = part.slice(1);
    if (part[0] === "#") return this.attributes.id === name;
    if (part[0] === ".") return this.className.split(/\s+/).includes(name);
    if (part[0] === "[") {
      const [, key, value] = /^\[\s*([\w-]+)\s*(?:=\s*["']?([^"'\]]*)["']?\s*)?\]$/.exec(part) ?? [];
      return value === undefined ? key in this.attributes : this.attributes[key] === value;
    }
    if (part === ":checked") return this.checked;
    if (part === ":first-child") return !this.previousElementSibling;
    if (part === ":last-child") return !this.nextElementSibling;
    if (part[0] === ":") return this.world.notCovered(`the selector ${part}`);
    return part === "*" || this.localName === part.toLowerCase();
  }

  closest(selector) {
    for (let element = this; element; element = element.parentElement) if (element.matches(selector)) return element;
    return null;
  }

  // -- what it does

  getContext(kind) {
    if (kind !== "2d") return this.world.notCovered(`a canvas for ${kind}`);
    return (this.context ??= contextOf(this));
  }

  toDataURL() {
    return `data:image/png;base64,${this.described}`;
  }

  click() {
    this.world.click(this);
  }

  focus() {
    this.ownerDocument.activeElement = this;
    this.note(`${this.described} has the focus`);
  }

  blur() {
    this.ownerDocument.activeElement = this.ownerDocument.body;
  }

  select() {}

  scrollIntoView() {}

  setPointerCapture() {}

  releasePointerCapture() {}

  requestFullscreen() {
    this.note(`${this.described} fills the screen`);
    return Promise.resolve();
  }

  play() {
    this.world.trace.add("page", `plays ${this.described} ${shown(this.src)}`);
    return Promise.resolve();
  }

  pause() {
    this.world.trace.add("page", `stops ${this.described} ${shown(this.src)}`);
  }

  getBoundingClientRect() {
    const { width, height } = this;
    return { ...BOX, width, height, right: width, bottom: height };
  }

  get width() {
    return Number(this.attributes.width ?? SIZES.width);
  }

  set width(value) {
    this.setAttribute("width", value);
  }

  get height() {
    return Number(this.attributes.height ?? SIZES.height);
  }

  set height(value) {
    this.setAttribute("height", value);
  }

  get naturalWidth() {
    return this.width;
  }

  get naturalHeight() {
    return this.height;
  }
}

for (const name of REFLECTED) {
  const spelled = SPELLED[name] ?? name;
  Object.defineProperty(Element.prototype, name, {
    get() {
      return this.attributes[spelled] ?? "";
    },
    set(value) {
      this.setAttribute(spelled, value);
    },
  });
}
for (const name of TRUTHS) {
  Object.defineProperty(Element.prototype, name, {
    get() {
      return name.toLowerCase() in this.attributes;
    },
    set(value) {
      this.toggleAttribute(name.toLowerCase(), Boolean(value));
    },
  });
}
for (const [side, name] of [
  ["Width", "width"],
  ["Height", "height"],
]) {
  for (const kind of ["client", "offset", "scroll"]) {
    Object.defineProperty(Element.prototype, `${kind}${side}`, {
      get() {
        return this[name];
      },
    });
  }
}
for (const name of ["offsetLeft", "offsetTop"]) Object.defineProperty(Element.prototype, name, { get: () => 0 });

module.exports = { Element };
