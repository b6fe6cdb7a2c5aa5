// What is drawn on the canvases of a page, flat or in space: written down in order, and then done.
"use strict";

const { DRAWING, SETTINGS } = require("../../page/drawing.cjs");
const { numbers, shown } = require("../../page/shown.cjs");

const ONLY_ASKS = /^(?:get|is|check)/;
const FLAT = ["CanvasRenderingContext2D", "OffscreenCanvasRenderingContext2D"];
const IN_SPACE = ["WebGLRenderingContext", "WebGL2RenderingContext"];
const PATH = `addPath arc arcTo bezierCurveTo closePath ellipse lineTo moveTo quadraticCurveTo rect roundRect`.split(" ");
const MADE = /^(?:CanvasGradient|CanvasPattern|Path2D|ImageBitmap|OffscreenCanvas|WebGL(?!.*(?:Context|Event)).*)$/;

function watchCanvases(world) {
  const note = (one, text) => world.trace.add("draw", `${one.described}: ${text}`);
  const noteOnCanvas = (context, text) => note(context.canvas, text);
  nameWhatIsMade();
  for (const name of FLAT.filter((one) => one in window)) {
    const home = window[name].prototype;
    watchCalls(home, DRAWING, noteOnCanvas);
    watchSettings(home, noteOnCanvas);
    watchPaints(home, noteOnCanvas);
  }
  for (const name of IN_SPACE.filter((one) => one in window)) {
    const home = window[name].prototype;
    const isCalled = (key) => typeof Object.getOwnPropertyDescriptor(home, key).value === "function";
    const asked = Object.keys(home).filter((key) => isCalled(key) && !ONLY_ASKS.test(key));
    watchCalls(home, asked, noteOnCanvas);
  }
  watchCalls(Path2D.prototype, PATH, note);
  watchCalls(CanvasGradient.prototype, ["addColorStop"], note);
  const { Path2D: Path } = window;
  window.Path2D = new Proxy(Path, {
    construct: (target, given) => {
      const path = new Path(...given);
      world.trace.add("draw", `${path.described} is made of ${given.map(shown).join(", ")}`);
      return path;
    },
  });
}

/** Let what is made for drawing tell which it is: the first of its kind, the second. */
function nameWhatIsMade() {
  const known = new WeakMap();
  const counts = new Map();
  for (const kind of Object.getOwnPropertyNames(window).filter((name) => MADE.test(name))) {
    Object.defineProperty(window[kind].prototype, "described", {
      configurable: true,
      get() {
        if (!known.has(this)) {
          counts.set(kind, (counts.get(kind) ?? 0) + 1);
          known.set(this, `${kind} ${counts.get(kind)}`);
        }
        return known.get(this);
      },
    });
  }
  Object.defineProperty(ImageData.prototype, "described", {
    configurable: true,
    get() {
      return `a picture of ${this.width} x ${this.height} ${numbers(this.data)}`;
    },
  });
}

function watchCalls(home, names, note) {
  for (const name of names.filter((one) => one in home)) {
    const real = home[name];
    home[name] = function (...given) {
      note(this, `${name}(${given.map(shown).join(", ")})`);
      return real.apply(this, given);
    };
  }
}

function watchSettings(home, note) {
  for (const name of Object.keys(SETTINGS)) {
    const found = Object.getOwnPropertyDescriptor(home, name);
    if (!found) continue;
    const { get, set } = found;
    Object.defineProperty(home, name, {
      configurable: true,
      enumerable: true,
      get,
      set(value) {
        note(this, `${name} = ${shown(value)}`);
        set.call(this, value);
      },
    });
  }
}

function watchPaints(home, note) {
  for (const name of Object.keys(home).filter((key) => /^create(?!ImageData)/.test(key))) {
    const real = home[name];
    home[name] = function (...given) {
      const paint = real.apply(this, given);
      if (paint) note(this, `${paint.described} is made of ${given.map(shown).join(", ")}`);
      return paint;
    };
  }
}

module.exports = { watchCanvases };
