// Reading a page of HTML: tags, attributes and texts, in the order in which a browser comes upon them.
"use strict";

const VOID = new Set("area base br col embed hr img input link meta source track wbr".split(" "));
const RAW = new Set(["script", "style", "textarea", "title"]);
const ENDED_BY_THEIR_LIKE = new Set(["p", "li", "option", "tr", "td", "th", "dt", "dd"]);
const ENTITIES = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'", nbsp: "\u00a0", copy: "©", times: "×" };
const TOKEN = /<!--[\s\S]*?(?:-->|$)|<![^>]*>|<(\/?)([A-Za-z][\w-]*)((?:"[^"]*"|'[^']*'|[^>"'])*)>|[^<]+|</g;
const ATTRIBUTE = /([^\s=/"'>]+)(?:\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s>]+)))?/g;

/** Build what a text says below an element; `done` is told of each script whose end is reached. */
function build(document, root, text, done = () => {}) {
  const open = [root];
  const tokens = new RegExp(TOKEN); // a script of the page may have another text built meanwhile
  for (let token; (token = tokens.exec(text)); ) {
    const [whole, isEnd, name, attributes] = token;
    if (name === undefined) {
      if (!whole.startsWith("<!"))
        put(document.homeOf("#text", open.at(-1)), document.createTextNode(decoded(whole)));
      continue;
    }
    const tag = name.toLowerCase();
    if (isEnd) {
      close(open, tag);
      continue;
    }
    if (ENDED_BY_THEIR_LIKE.has(tag) && open.at(-1).localName === tag) open.pop();
    const element = document.createElement(tag);
    for (const [, key, one, two, three] of attributes.matchAll(ATTRIBUTE)) {
      element.attributes[key.toLowerCase()] = decoded(one ?? two ?? three ?? "");
    }
    nameAsVariable(document, element.attributes.id);
    const home = document.homeOf(tag, open.at(-1));
    if (home === element.localName) {
      Object.assign(document[home === "html" ? "documentElement" : home].attributes, element.attributes);
      if (home !== "html") open.push(document[home]);
      continue;
    }
    put(home, element);
    if (VOID.has(tag)) continue;
    if (!RAW.has(tag)) {
      open.push(element);
      continue;
    }
    const end = text.toLowerCase().indexOf(`</${tag}`, tokens.lastIndex);
    const until = end < 0 ? text.length : end;
    const begin = tokens.lastIndex;
    const inside = text.slice(begin, until);
    put(element, document.createTextNode(tag === "script" || tag === "style" ? inside : decoded(inside)));
    tokens.lastIndex = end < 0 ? text.length : text.indexOf(">", until) + 1;
    if (tag === "script") done(element, inside, begin);
    else if (tag === "textarea") element.typed = decoded(inside);
  }
}

/** An element can be asked for by its id, as a variable that nothing declares; a script that sets it has its own. */
function nameAsVariable(document, id) {
  if (!id || id in globalThis) return;
  Object.defineProperty(globalThis, id, {
    configurable: true,
    get: () => document.getElementById(id) ?? undefined,
    set: (value) => Object.defineProperty(globalThis, id, { value, writable: true, configurable: true }),
  });
}

/** Put a node behind the others of an element, without telling of it: the page comes so. */
function put(parent, node) {
  node.parentNode = parent;
  parent.childNodes.push(node);
}

function close(open, tag) {
  const at = open.findLastIndex((element) => element.localName === tag);
  if (at > 0) open.length = at;
}

function decoded(text) {
  return text.replace(/&(?:#x([\da-f]+)|#(\d+)|(\w+));/gi, (whole, hex, decimal, name) =>
    hex || decimal ? String.fromCodePoint(parseInt(hex ?? decimal, hex ? 16 : 10)) : ENTITIES[name] ?? whole
  );
}

function escaped(text) {
  return text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/"/g, "&quot;");
}

module.exports = { VOID, build, decoded, escaped };
