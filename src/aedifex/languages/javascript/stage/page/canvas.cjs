// The context of a canvas: what is drawn is written down in order, with the properties that are set for it.
"use strict";

const { shown } = require("./shown.cjs");

const DRAWING =
  `arc arcTo beginPath bezierCurveTo clearRect clip closePath drawImage ellipse fill fillRect fillText lineTo moveTo
  putImageData quadraticCurveTo rect reset resetTransform restore rotate roundRect save scale setLineDash setTransform
  stroke strokeRect strokeText transform translate drawFocusIfNeeded`.split(/\s+/);
const FIRST = {
  fillStyle: "#000000",
  strokeStyle: "#000000",
  lineWidth: 1,
  lineCap: "butt",
  lineJoin: "miter",
  miterLimit: 10,
  lineDashOffset: 0,
  font: "10px sans-serif",
  textAlign: "start",
  textBaseline: "alphabetic",
  direction: "ltr",
  globalAlpha: 1,
  globalCompositeOperation: "source-over",
  shadowBlur: 0,
  shadowColor: "rgba(0, 0, 0, 0)",
  shadowOffsetX: 0,
  shadowOffsetY: 0,
  imageSmoothingEnabled: true,
  imageSmoothingQuality: "low",
  filter: "none",
};
const LETTER = 6;

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
  const picture = (width, height) => ({ width, height, data: new Uint8ClampedArray(width * height * 4) });
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
  let set = { ...FIRST };
  const { save, restore } = context;
  context.save = () => kept.push({ ...set }) && save();
  context.restore = () => {
    set = kept.pop() ?? set;
    restore();
  };
  for (const name of Object.keys(FIRST)) {
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
