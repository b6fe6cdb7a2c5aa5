// What a sketch's library works out: numbers, texts, lists, and curves.
"use strict";

const { Vector } = require("./vectors.cjs");

const PLAIN = "abs ceil exp floor log max min pow sqrt".split(" ");
const ON_LISTS = new Set(["max", "min"]);

function random(low, high) {
  if (Array.isArray(low)) return low[Math.floor(Math.random() * low.length)];
  if (low === undefined) return Math.random();
  return high === undefined ? Math.random() * low : low + Math.random() * (high - low);
}

/** Something smooth between 0 and 1. */
function noise(x = 0, y = 0, z = 0) {
  return (Math.sin(x * 1.7 + Math.sin(y * 2.3) + Math.sin(z * 1.1) * 2) + Math.sin(x * 0.31 + y * 0.17 + z) + 2) / 4;
}

function map(value, a, b, c, d, within) {
  const mapped = ((value - a) / (b - a)) * (d - c) + c;
  return within ? Math.min(Math.max(mapped, Math.min(c, d)), Math.max(c, d)) : mapped;
}

function dist(...given) {
  const half = given.length / 2;
  return Math.hypot(...given.slice(0, half).map((one, at) => one - given[at + half]));
}

const onEach = (worked) => (value) => (Array.isArray(value) ? value.map(worked) : worked(value));

/** A number with so many places before and behind its point. */
function nf(value, left = 0, right = undefined) {
  const text = right === undefined ? String(Math.abs(value)) : Math.abs(value).toFixed(right);
  const [whole, part] = text.split(".");
  return (value < 0 ? "-" : "") + whole.padStart(left, "0") + (part === undefined ? "" : `.${part}`);
}

function nfc(value, right) {
  const [whole, part] = (right === undefined ? String(value) : Number(value).toFixed(right)).split(".");
  return whole.replace(/\B(?=(\d{3})+$)/g, ",") + (part === undefined ? "" : `.${part}`);
}

function bezierPoint(a, b, c, d, t) {
  const rest = 1 - t;
  return rest ** 3 * a + 3 * rest ** 2 * t * b + 3 * rest * t ** 2 * c + t ** 3 * d;
}

function bezierTangent(a, b, c, d, t) {
  const rest = 1 - t;
  return 3 * rest ** 2 * (b - a) + 6 * rest * t * (c - b) + 3 * t ** 2 * (d - c);
}

function curvePoint(a, b, c, d, t) {
  return 0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t ** 2 + (3 * b - a - 3 * c + d) * t ** 3);
}

function curveTangent(a, b, c, d, t) {
  return 0.5 * (c - a + 2 * (2 * a - 5 * b + 4 * c - d) * t + 3 * (3 * b - a - 3 * c + d) * t ** 2);
}

/** Angles, in what `isDegrees` says at the time of the call. */
function anglesOf(isDegrees) {
  const angle = (value) => (isDegrees() ? (value * Math.PI) / 180 : value);
  const back = (value) => (isDegrees() ? (value * 180) / Math.PI : value);
  return {
    sin: (value) => Math.sin(angle(value)),
    cos: (value) => Math.cos(angle(value)),
    tan: (value) => Math.tan(angle(value)),
    asin: (value) => back(Math.asin(value)),
    acos: (value) => back(Math.acos(value)),
    atan: (value) => back(Math.atan(value)),
    atan2: (y, x) => back(Math.atan2(y, x)),
    radians: (value) => (value * Math.PI) / 180,
    degrees: (value) => (value * 180) / Math.PI,
  };
}

const FUNCTIONS = {
  random,
  noise,
  map,
  dist,
  nf,
  nfc,
  bezierPoint,
  bezierTangent,
  curvePoint,
  curveTangent,
  splinePoint: curvePoint,
  splineTangent: curveTangent,
  nfp: (value, ...given) => (value < 0 ? "" : "+") + nf(value, ...given),
  nfs: (value, ...given) => (value < 0 ? "" : " ") + nf(value, ...given),
  randomGaussian: (mean = 0, spread = 1) =>
    mean + spread * Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random()),
  randomSeed: () => {},
  noiseSeed: () => {},
  noiseDetail: () => {},
  constrain: (value, low, high) => Math.max(Math.min(value, high), low),
  lerp: (one, two, part) => one + (two - one) * part,
  norm: (value, low, high) => (value - low) / (high - low),
  mag: (x, y) => Math.hypot(x, y),
  sq: (value) => value * value,
  fract: (value) => value - Math.floor(value),
  round: (value, digits = 0) => Number(value.toFixed(digits)),
  int: onEach((value) => (typeof value === "string" ? parseInt(value, 10) : Math.trunc(Number(value)))),
  float: onEach((value) => parseFloat(value)),
  str: onEach((value) => String(value)),
  boolean: onEach((value) => (typeof value === "string" ? value.toLowerCase() === "true" : Boolean(value))),
  byte: onEach((value) => ((((Number(value) | 0) + 128) % 256) + 256) % 256 - 128),
  char: onEach((value) => String.fromCharCode(value)),
  unchar: onEach((value) => String(value).charCodeAt(0)),
  hex: (value, digits = 8) => value.toString(16).toUpperCase().padStart(digits, "0"),
  unhex: onEach((value) => parseInt(value, 16)),
  shuffle: (list) =>
    [...list]
      .map((value) => [Math.random(), value])
      .sort((a, b) => a[0] - b[0])
      .map((pair) => pair[1]),
  append: (list, value) => list.push(value) && list,
  shorten: (list) => list.pop() && list,
  reverse: (list) => list.reverse(),
  concat: (one, two) => one.concat(two),
  subset: (list, at, count = list.length) => list.slice(at, at + count),
  sort: (list, count = list.length) => {
    const first = list.slice(0, count);
    return first.sort(typeof first[0] === "string" ? undefined : (one, two) => one - two).concat(list.slice(count));
  },
  splice: (list, value, at) => list.splice(at, 0, ...[value].flat()) && list,
  arrayCopy: (from, ...given) => {
    const [begin, to, at, count] = given.length > 2 ? given : [0, given[0], 0, given[1] ?? from.length];
    to.splice(at, count, ...from.slice(begin, begin + count));
  },
  splitTokens: (text, signs = " \t\n") => text.split(new RegExp(`[${signs}]+`)).filter(Boolean),
  split: (text, sign) => text.split(sign),
  join: (list, sign) => list.join(sign),
  trim: onEach((text) => text.trim()),
  match: (text, pattern) => text.match(pattern),
  matchAll: (text, pattern) => [...text.matchAll(new RegExp(pattern, "g"))].map((found) => [...found]),
  textWidth: (text) => String(text).length * 6,
  textAscent: () => 9,
  textDescent: () => 3,
  createVector: (x = 0, y = 0, z = 0) => new Vector(x, y, z),
};
for (const name of PLAIN) {
  FUNCTIONS[name] = (...given) => Math[name](...(ON_LISTS.has(name) && Array.isArray(given[0]) ? given[0] : given));
}

module.exports = { FUNCTIONS, anglesOf };
