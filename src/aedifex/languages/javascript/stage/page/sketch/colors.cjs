// Colours, as sketches have them: four levels from 0 to 255, or what they were made of.
"use strict";

const { shown } = require("../shown.cjs");

const MOST = 255;

class Color {
  constructor(levels, described) {
    this.levels = levels;
    this.described = described;
  }

  setRed(level) {
    this.levels[0] = level;
  }

  setGreen(level) {
    this.levels[1] = level;
  }

  setBlue(level) {
    this.levels[2] = level;
  }

  setAlpha(level) {
    this.levels[3] = level;
    this.described = `${this.described} with alpha ${level}`;
  }

  toString() {
    return `rgba(${this.levels.join(",")})`;
  }
}

function colorOf(given) {
  if (given[0] instanceof Color) return given[0];
  if (Array.isArray(given[0])) return colorOf(given[0]);
  const described = `color(${given.map(shown).join(", ")})`;
  const [first, second, third, fourth] = typeof given[0] === "string" ? ofSpelled(given[0]) : given;
  const isGrey = third === undefined && typeof first === "number";
  const levels = isGrey ? [first, first, first, second ?? MOST] : [first, second, third, fourth ?? MOST];
  return new Color(levels, described);
}

/** The levels of a colour that is spelled with a number sign; any other spelling stands for itself. */
function ofSpelled(text) {
  const digits = /^#([\da-f]{3,8})$/i.exec(text)?.[1];
  if (!digits || digits.length === 5 || digits.length === 7) return [text];
  const width = digits.length < 6 ? 1 : 2;
  return digits.match(new RegExp(`.{${width}}`, "g")).map((part) => parseInt(part.repeat(3 - width), 16));
}

/** Hue in degrees; saturation and brightness, and saturation and lightness, in parts of a hundred. */
function toneOf(color) {
  const [red, green, blue] = color.levels.map((level) => Number(level) / MOST);
  const [high, low] = [Math.max(red, green, blue), Math.min(red, green, blue)];
  const range = high - low;
  const turned =
    range === 0 ? 0 : high === red ? (green - blue) / range : high === green ? 2 + (blue - red) / range : 4 + (red - green) / range;
  return {
    hue: (turned * 60 + 360) % 360,
    saturation: high === 0 ? 0 : (100 * range) / high,
    brightness: 100 * high,
    lightness: 50 * (high + low),
  };
}

const FUNCTIONS = {
  color: (...given) => colorOf(given),
  lerpColor: (one, two, part) => {
    const ends = colorOf([two]).levels;
    return colorOf(colorOf([one]).levels.map((level, at) => level + (ends[at] - level) * part));
  },
  red: (color) => colorOf([color]).levels[0],
  green: (color) => colorOf([color]).levels[1],
  blue: (color) => colorOf([color]).levels[2],
  alpha: (color) => colorOf([color]).levels[3],
  hue: (color) => toneOf(colorOf([color])).hue,
  saturation: (color) => toneOf(colorOf([color])).saturation,
  brightness: (color) => toneOf(colorOf([color])).brightness,
  lightness: (color) => toneOf(colorOf([color])).lightness,
};

module.exports = { Color, FUNCTIONS };
