// Plays one page in one scenario in a real browser: `node main.cjs PLAN BROWSER`, where PLAN is the number of an open
// JSON file, as for the other stage, and BROWSER the command that starts one.
"use strict";

const fs = require("node:fs");
const path = require("node:path");
const process = require("node:process");

const { isOfPage } = require("../page/sorts.cjs");
const { writeAnew } = require("../papers.cjs");
const { Trace } = require("../trace.cjs");
const { bundled } = require("./bundle.cjs");
const { Coverage } = require("./coverage.cjs");
const { Browser } = require("./pipe.cjs");
const { ORIGIN, Serving } = require("./serving.cjs");

const INSIDE = path.join(__dirname, "inside", "world.cjs");
const SIZE = { width: 1280, height: 720, deviceScaleFactor: 1, mobile: false };
const LOADING = 20_000;
const MOST_ROUNDS = 400;
const PAUSE = 5;
const NO_BROWSER = 127;

const plan = JSON.parse(fs.readFileSync(Number(process.argv[2]), "utf8"));
const trace = new Trace({ plan, finish });
const serving = new Serving(plan);
const browser = new Browser(process.argv[3], path.join(plan.home, ".browser"));
const coverage = new Coverage(browser, plan, serving);
const loading = new Set();
const loaded = new Set();
const went = [];
let isServed = false;
let isOver = false;
let seconds = 0;

browser.on("gone", () => {
  process.stderr.write(`the browser ended: ${browser.said.trim().split("\n").at(-1)}\n`);
  process.exit(NO_BROWSER);
});
browser.on("Fetch.requestPaused", ({ requestId, request, resourceType, frameId }) => {
  const leaves = resourceType === "Document" && frameId === browser.mainFrame && isServed;
  isServed = true;
  if (leaves) went.push(request.url === serving.page ? "loads the page anew" : `goes to ${request.url}`);
  const left = ["Fetch.failRequest", { errorReason: "Aborted" }];
  const [method, given] = leaves ? left : serving.answerTo(request, resourceType);
  browser.ask(method, { requestId, ...given });
});
browser.on("Page.navigatedWithinDocument", ({ url }) => went.push(`the address is ${url.slice(ORIGIN.length)}`));
browser.on("Page.lifecycleEvent", ({ name, loaderId }) => name === "load" && loaded.add(loaderId));
browser.on("Page.javascriptDialogOpening", () => browser.ask("Page.handleJavaScriptDialog", { accept: true }));
browser.on("Network.requestWillBeSent", ({ requestId }) => loading.add(requestId));
for (const end of ["loadingFinished", "loadingFailed"])
  browser.on(`Network.${end}`, ({ requestId }) => loading.delete(requestId));

/** Write down how it ended, and leave. */
async function finish(ending, heard) {
  if (isOver) return;
  isOver = true;
  await coverage.close();
  if (heard) writeAnew(plan.heard_file, heard);
  await browser.close();
  trace.close({ ...ending, seconds });
  process.exit(ending.code);
}

/** What the page's own part answers. */
async function inside(call) {
  const asked = { expression: `aedifexStage.${call}`, awaitPromise: true, returnByValue: true };
  return (await browser.ask("Runtime.evaluate", asked))?.result?.value;
}

/** Wait until what the page has asked for is there, then write down what it did since; whether anything goes on. */
async function settle(call) {
  let found = await inside(call);
  for (let round = 0; round < MOST_ROUNDS && loading.size; round++) {
    await new Promise((done) => setTimeout(done, PAUSE));
    found = joined(found, await inside("settle()"));
  }
  const { entries, goesOn, ended, unknown, uncovered, heard } = found;
  seconds = found.seconds;
  for (const [kind, text, where] of entries) trace.put(kind, text, where);
  for (const text of went.splice(0)) trace.put("page", text, "");
  const [missed] = unknown ? serving.missing : [];
  if (missed) await finish({ code: 1, uncovered: `what is not here (\`${unknown}\`, perhaps of ${missed})` });
  else if (uncovered) await finish({ code: 1, uncovered });
  else if (ended) await finish({ code: 0, ...ended }, heard);
  return goesOn;
}

function joined(one, two) {
  return { ...one, ...two, goesOn: one.goesOn, entries: [...one.entries, ...two.entries] };
}

async function openPage() {
  await browser.openPage();
  const patterns = [{ urlPattern: "*" }];
  const tree = await browser.ask("Page.getFrameTree");
  browser.mainFrame = tree.frameTree.frame.id;
  for (const domain of ["Page", "Runtime", "Network"]) await browser.ask(`${domain}.enable`);
  await browser.ask("Fetch.enable", { patterns });
  await browser.ask("Emulation.setDeviceMetricsOverride", SIZE);
  await coverage.begin();
  const { seed, turns, events, entries, improvised } = plan;
  const told = { seed, turns, events, entries, improvised, typed: fs.readFileSync(0, "utf8"), page: serving.page };
  await browser.ask("Page.addScriptToEvaluateOnNewDocument", { source: bundled(INSIDE, told) });
  await browser.ask("Page.setLifecycleEventsEnabled", { enabled: true });
  const isLoaded = loadingOf(await browser.ask("Page.navigate", { url: serving.page }));
  await Promise.race([isLoaded, new Promise((done) => setTimeout(done, LOADING))]);
}

/** Wait for a page to be loaded: one that would leave at once stays, and is told that it has stopped. */
function loadingOf({ loaderId }) {
  return new Promise((done) => {
    const look = () => loaded.has(loaderId) && done();
    browser.on("Page.lifecycleEvent", look);
    browser.on("Page.frameStoppedLoading", () => went.length && done());
    look();
  });
}

async function play() {
  if (!isOfPage(plan.script)) return finish({ code: 1, uncovered: "only what Node has" });
  await openPage();
  let goesOn = (await settle("settle()")) ?? true;
  while (!isOver) goesOn = await settle(goesOn ? "step()" : "end()");
}

play().catch((error) => {
  process.stderr.write(`${error.stack.split("\n").join(" ")}\n`);
  process.exit(NO_BROWSER);
});
