// Values as the texts that make them anew.
"use strict";

const PLAIN_NAME = /^[A-Za-z_$][\w$]*$/;
const FEW = 12;
const MOST = 2000;

/** The text of a value; of what it holds `textOf` tells, which may give nothing: then there is none. */
function written(value, textOf = written) {
  if (value === null || value === undefined || typeof value === "boolean") return String(value);
  if (typeof value === "number") return Object.is(value, -0) ? "-0" : String(value);
  if (typeof value === "bigint") return `${value}n`;
  if (typeof value === "string") return JSON.stringify(value);
  if (typeof value !== "object") return null;
  if (Array.isArray(value)) return ofList(value, textOf);
  const kind = Object.getPrototypeOf(value);
  if (kind === Object.prototype || kind === null) return ofObject(value, textOf);
  if (kind === Map.prototype) return value.size ? around("new Map(", ofList([...value], textOf), ")") : "new Map()";
  if (kind === Set.prototype) return value.size ? around("new Set(", ofList([...value], textOf), ")") : "new Set()";
  if (ArrayBuffer.isView(value) && typeof value.length === "number")
    return around(`new ${value.constructor.name}(`, ofList([...value], textOf), ")");
  return kind === Date.prototype ? `new Date(${Number(value)})` : null;
}

function around(before, text, behind) {
  return text === null ? null : `${before}${text}${behind}`;
}

/** A list; of many that are all alike, how many there are and what they are. */
function ofList(list, textOf) {
  if (list.length > MOST) return null;
  const texts = Array.from(list, (each) => textOf(each));
  if (texts.includes(null)) return null;
  const isRepeated = texts.length > FEW && typeof list[0] !== "object" && new Set(texts).size === 1;
  return isRepeated ? `Array(${texts.length}).fill(${texts[0]})` : `[${texts.join(", ")}]`;
}

function ofObject(object, textOf) {
  if (Object.getOwnPropertySymbols(object).length) return null;
  const pairs = Object.entries(Object.getOwnPropertyDescriptors(object)).map(([key, found]) => {
    const text = found.get || found.set || !found.enumerable || key === "__proto__" ? null : textOf(found.value);
    return around(`${PLAIN_NAME.test(key) ? key : JSON.stringify(key)}: `, text, "");
  });
  if (pairs.includes(null)) return null;
  return pairs.length ? `{ ${pairs.join(", ")} }` : "{}";
}

/** The name of what makes an object of a class in tests. */
function makerOf(name) {
  return `${/^[AEIOU]/.test(name) ? "an" : "a"}${name}`;
}

module.exports = { makerOf, written };
