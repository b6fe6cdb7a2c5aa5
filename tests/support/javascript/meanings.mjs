// What acorn and eslint-scope say each name means, a JSON line for each file that is named on standard input.
import { createInterface } from "node:readline";
import { readFileSync } from "node:fs";
import * as acorn from "acorn";
import * as scopes from "eslint-scope";

for await (const path of createInterface({ input: process.stdin })) {
  try {
    console.log(JSON.stringify({ path, found: meanings(readFileSync(path, "utf8").replace(/^\ufeff/, "")) }));
  } catch (error) {
    console.log(JSON.stringify({ path, error: String(error.message) }));
  }
}

function meanings(text) {
  const bytes = byteOffsets(text);
  const found = [];
  const { tree, sourceType } = parsed(text);
  const manager = scopes.analyze(tree, { ecmaVersion: 2022, sourceType, ignoreEval: true });
  const inSignature = new Set();
  for (const scope of manager.scopes) {
    for (const variable of scope.variables) {
      for (const definition of variable.defs) {
        if (definition.type === "Parameter" || definition.type === "CatchClause") inSignature.add(definition.name);
      }
    }
  }
  for (const scope of manager.scopes) {
    for (const reference of scope.references) {
      const name = reference.identifier;
      if (reference.init && inSignature.has(name)) continue;
      const first = Math.min(...(reference.resolved?.defs ?? []).map((definition) => definition.name.start));
      const kind = reference.isRead() ? (reference.isWrite() ? "both" : "read") : "write";
      found.push([bytes(name.start), bytes(name.end), kind, name.name, first === Infinity ? null : bytes(first)]);
    }
  }
  return found;
}

function parsed(text) {
  const options = { ecmaVersion: "latest", allowHashBang: true, allowReturnOutsideFunction: true, ranges: true };
  for (const sourceType of ["module", "script"]) {
    try {
      return { sourceType, tree: acorn.parse(text, { ...options, sourceType }) };
    } catch (error) {
      if (sourceType === "script") throw error;
    }
  }
}

function byteOffsets(text) {
  if (/^[\x00-\x7f]*$/.test(text)) return (at) => at;
  const offsets = new Uint32Array(text.length + 1);
  let bytes = 0;
  for (let at = 0; at < text.length; at++) {
    offsets[at] = bytes;
    const code = text.charCodeAt(at);
    if (code >= 0xdc00 && code < 0xe000) continue; // the second half of a pair, whose bytes were counted
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code >= 0xd800 && code < 0xdc00 ? 4 : 3;
  }
  offsets[text.length] = bytes;
  return (at) => offsets[at];
}
