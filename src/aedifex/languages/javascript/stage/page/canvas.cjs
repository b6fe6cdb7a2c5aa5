// The context of a canvas: what is drawn is written down in order, with the properties that are set for it.
"use strict";

const { DRAWING, SETTINGS } = require("./drawing.cjs");
const { numbers, shown } = require("./shown.cjs");

const LETTER = 6;

class Picture {
  constructor(width, height) {
    Object.assign(this, { width, height, data: new Uint8ClampedArray(width * height * 4) });
  }

  get described() {
    return `a picture of ${this.width} x ${this.height} ${numbers(this.data)}`;
  }
}

function contextOf(canvas) {
  const { trace } = canvas.world;
  const note = (text) => trace.add("draw", `${canvas.described}: ${text}`);
  let made = 0;
  const paint = (kind, given) => {
    const one = { described: `${kind} ${++made}` };
    note(`${one.described} is made of ${given.map(shown).join(", ")}`);
    one.addColorStop = (at, color) => note(`${one.described} has ${shown(color)} at ${at}`);
    one.setTransform = () => {};
    return one;
  };
  const picture = (width, height) => new Picture(width, height);
  const kept = [];
  const context = {
    canvas,
    measureText: (text) => ({
      width: String(text).length * LETTER,
      actualBoundingBoxAscent: 8,
      actualBoundingBoxDescent: 2,
    }),
    createLinearGradient: (...given) => paint("gradient", given),
    createRadialGradient: (...given) => paint("gradient", given),
    createConicGradient: (...given) => paint("gradient", given),
    createPattern: (...given) => paint("pattern", given),
    createImageData: (width, height) => picture(width.width ?? width, width.height ?? height),
    getImageData: (_x, _y, width, height) => picture(Math.abs(width) || 1, Math.abs(height) || 1),
    getLineDash: () => [],
    isPointInPath: () => false,
    isPointInStroke: () => false,
    getContextAttributes: () => ({ alpha: true }),
  };
  for (const name of DRAWING) context[name] = (...given) => note(`${name}(${given.map(shown).join(", ")})`);
  let set = { ...SETTINGS };
  const { save, restore } = context;
  context.save = () => kept.push({ ...set }) && save();
  context.restore = () => {
    set = kept.pop() ?? set;
    restore();
  };
  for (const name of Object.keys(SETTINGS)) {
    Object.defineProperty(context, name, {
      get: () => set[name],
      set: (value) => {
        set[name] = value;
        note(`${name} = ${shown(value)}`);
      },
    });
  }
  return context;
}

module.exports = { contextOf };
