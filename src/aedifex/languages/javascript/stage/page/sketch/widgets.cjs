// What a sketch puts beside its canvas: sliders, buttons, fields. Each is an element of the page, with the library's methods.
"use strict";

const colors = require("./colors.cjs").FUNCTIONS;

const NUMBERS = new Set(["range", "number"]);

class Widget {
  constructor(element) {
    this.elt = element;
    this.described = element.described;
  }

  get width() {
    return this.elt.width;
  }

  get height() {
    return this.elt.height;
  }

  value(text) {
    if (text === undefined) return NUMBERS.has(this.elt.type) ? Number(this.elt.value) : this.elt.value;
    this.elt.value = text;
    return this;
  }

  checked(value) {
    if (value === undefined) return this.elt.checked;
    this.elt.checked = value;
    return this;
  }

  html(text) {
    if (text === undefined) return this.elt.innerHTML;
    this.elt.innerHTML = text;
    return this;
  }

  option(text, value = text) {
    const option = this.elt.ownerDocument.createElement("option");
    option.textContent = text;
    option.attributes.value = String(value);
    this.elt.appendChild(option);
    return this;
  }

  selected(value) {
    return this.value(value);
  }

  disable(value) {
    for (const option of this.elt.children) {
      if (value === undefined || option.attributes.value === String(value)) option.setAttribute("disabled", "");
    }
    return this;
  }

  addClass(name) {
    return this.class([this.class(), name].filter(Boolean).join(" "));
  }

  removeClass(name) {
    return this.class(this.classes().filter((each) => each !== name).join(" "));
  }

  toggleClass(name) {
    return this.hasClass(name) ? this.removeClass(name) : this.addClass(name);
  }

  hasClass(name) {
    return this.classes().includes(name);
  }

  classes() {
    return (this.class() ?? "").split(" ").filter(Boolean);
  }

  color() {
    return colors.color(this.elt.value);
  }

  center() {
    return this.position(0, 0);
  }

  draggable() {
    return this;
  }

  removeAttribute(name) {
    this.elt.removeAttribute(name);
    return this;
  }

  style(name, value) {
    if (value === undefined) return this.elt.style[name];
    this.elt.style[name] = value;
    return this;
  }

  attribute(name, value) {
    if (value === undefined) return this.elt.getAttribute(name);
    this.elt.setAttribute(name, value);
    return this;
  }

  id(name) {
    return this.attribute("id", name);
  }

  class(name) {
    return this.attribute("class", name);
  }

  position(x, y) {
    if (x === undefined) return { x: 0, y: 0 };
    return this.style("left", `${x}px`).style("top", `${y}px`);
  }

  size(width, height) {
    return this.style("width", `${width}px`).style("height", `${height}px`);
  }

  parent(other) {
    const home = typeof other === "string" ? this.elt.ownerDocument.getElementById(other) : other.elt ?? other;
    home.appendChild(this.elt);
    return this;
  }

  child(other) {
    this.elt.appendChild(other.elt ?? other);
    return this;
  }

  hide() {
    return this.style("display", "none");
  }

  show() {
    return this.style("display", "block");
  }

  remove() {
    this.elt.remove();
  }

  hears(type, call) {
    this.elt.addEventListener(type, call);
    return this;
  }
}

/** Buttons of which one is chosen. */
class Choices extends Widget {
  constructor(element, make) {
    super(element);
    this.make = make;
  }

  boxes() {
    return this.elt.children.filter((each) => each.type === "radio");
  }

  option(text, label = text) {
    const box = this.make("input", { type: "radio", value: text }, "");
    this.elt.appendChild(box.elt);
    this.elt.appendChild(this.make("label", {}, label).elt);
    return box.elt;
  }

  value(text) {
    return text === undefined ? this.boxes().find((each) => each.checked)?.value ?? "" : this.selected(text);
  }

  selected(text) {
    if (text === undefined) return this.boxes().find((each) => each.checked);
    for (const box of this.boxes()) box.checked = box.value === String(text);
    return this;
  }
}

for (const [name, type] of Object.entries({
  mousePressed: "mousedown",
  mouseReleased: "mouseup",
  mouseClicked: "click",
  mouseOver: "mouseover",
  mouseOut: "mouseout",
  mouseMoved: "mousemove",
  mouseWheel: "wheel",
  doubleClicked: "dblclick",
  touchStarted: "touchstart",
  touchMoved: "touchmove",
  touchEnded: "touchend",
  dragOver: "dragover",
  dragLeave: "dragleave",
  drop: "drop",
  input: "input",
  changed: "change",
})) {
  Widget.prototype[name] = function (call) {
    return this.hears(type, call);
  };
}

/** The functions with which a sketch makes them. */
function widgetsOf(sketch) {
  const made = (tag, attributes = {}, text = "") => {
    const element = sketch.world.document.createElement(tag);
    for (const [name, value] of Object.entries(attributes)) {
      if (value !== undefined) element.attributes[name] = String(value);
    }
    if (text !== "") element.innerHTML = text;
    return new Widget(element);
  };
  const shown = (widget) => {
    sketch.world.document.body.appendChild(widget.elt);
    return widget;
  };
  const checkbox = (text, value) => {
    const box = make("input", { type: "checkbox", value: text });
    box.elt.isChecked = Boolean(value);
    return box;
  };
  const make = (...given) => shown(made(...given));
  const found = (query, within = sketch.world.document) =>
    [...(within.elt ?? within).querySelectorAll(query)].map((element) => new Widget(element));
  return {
    createSlider: (min, max, value = (min + max) / 2, step = 1) =>
      make("input", { type: "range", min, max, value, step }),
    createColorPicker: (value = "#000000") => make("input", { type: "color", value: String(value) }),
    createFileInput: () => make("input", { type: "file" }),
    createCapture: (kind) => sketch.thing(`capture of ${kind}`),
    createRadio: () => shown(new Choices(sketch.world.document.createElement("div"), made)),
    select: (query, within) => found(query, within)[0] ?? null,
    selectAll: found,
    createButton: (text, value) => make("button", { value }, text),
    createInput: (value = "", type = "text") => make("input", { type, value }),
    createSelect: () => make("select"),
    createCheckbox: (text = "", value = false) => checkbox(text, value),
    createDiv: (text = "") => make("div", {}, text),
    createP: (text = "") => make("p", {}, text),
    createSpan: (text = "") => make("span", {}, text),
    createA: (href, text) => make("a", { href }, text),
    createImg: (src, alt = "") => make("img", { src, alt }),
    createElement: (tag, text = "") => make(tag, {}, text),
  };
}

module.exports = { widgetsOf };
