// The words by which one draws on a canvas, and what is set there at first.
"use strict";

const DRAWING =
  `arc arcTo beginPath bezierCurveTo clearRect clip closePath drawImage ellipse fill fillRect fillText lineTo moveTo
  putImageData quadraticCurveTo rect reset resetTransform restore rotate roundRect save scale setLineDash setTransform
  stroke strokeRect strokeText transform translate drawFocusIfNeeded`.split(/\s+/);
const SETTINGS = {
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

module.exports = { DRAWING, SETTINGS };
