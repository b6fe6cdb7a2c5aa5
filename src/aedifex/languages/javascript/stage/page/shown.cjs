// Values as they are written down.
"use strict";

const LONGEST = 300;

function shown(value) {
  if (typeof value === "string") return JSON.stringify(value);
  if (typeof value === "function") return typeof value.described === "string" ? value.described : "a function";
  if (value === null || typeof value !== "object") return String(value);
  if (typeof value.described === "string")
    return value.src ? `${value.described} ${shown(value.src)}` : value.described;
  if (Array.isArray(value) || ArrayBuffer.isView(value))
    return `[${Array.from(value, shown).join(", ").slice(0, LONGEST)}]`;
  try {
    return JSON.stringify(value).slice(0, LONGEST);
  } catch {
    return "an object";
  }
}

module.exports = { shown };
