// Values as they are written down.
"use strict";

const LONGEST = 300;
const MOST_ITEMS = 60;

function shown(value) {
  if (typeof value === "string") return JSON.stringify(value);
  if (typeof value === "function") return typeof value.described === "string" ? value.described : "a function";
  if (value === null || typeof value !== "object") return String(value);
  if (typeof value.described === "string")
    return value.src ? `${value.described} ${shown(value.src)}` : value.described;
  if (ArrayBuffer.isView(value)) return numbers(value);
  if (value instanceof ArrayBuffer) return numbers(new Uint8Array(value));
  if (Array.isArray(value)) return `[${shortened(Array.from(value, shown).join(", "))}]`;
  try {
    return shortened(JSON.stringify(value));
  } catch {
    return "an object";
  }
}

/** Numbers that lie one behind the other: the first, and of many a mark that tells them from others. */
function numbers(view) {
  if (view instanceof DataView) view = new Uint8Array(view.buffer, view.byteOffset, view.byteLength);
  if (view.length <= MOST_ITEMS) return `[${Array.from(view).join(", ")}]`;
  const bytes = new Uint8Array(view.buffer, view.byteOffset, view.byteLength);
  return `[${Array.from(view.slice(0, 8)).join(", ")}… ${view.length} numbers, ${markOf(bytes)}]`;
}

function shortened(text) {
  if (text.length <= LONGEST) return text;
  const signs = Uint16Array.from(text, (sign) => sign.charCodeAt(0));
  return `${text.slice(0, LONGEST)}… ${text.length} characters, ${markOf(signs)}`;
}

/** A short word for many numbers, by the hash FNV-1a of Glenn Fowler, Landon Curt Noll and Kiem-Phong Vo. */
function markOf(values) {
  let mark = 0x811c9dc5;
  for (const value of values) mark = Math.imul(mark ^ value, 0x01000193);
  return (mark >>> 0).toString(16);
}

module.exports = { numbers, shortened, shown };
