// Whole-program figures as a table: start, memory, edit round trip, plan, first load.
import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { performance } from "node:perf_hooks";
import { gzipSync } from "node:zlib";

import { chromium } from "@playwright/test";

const FLAGS = [
  ...["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"],
  ...["--disable-background-networking", "--disable-component-update", "--disable-sync"],
];
const bin = process.env.JIGFIT_BIN ?? join(import.meta.dirname, "../target/release/jigfit");
const data = await mkdtemp(join(tmpdir(), "jigfit-bench-"));
const rows = [];

/** Minimum, median, 95th percentile and maximum. */
function spread(values) {
  const v = [...values].sort((a, b) => a - b);
  const at = (q) => v[Math.min(v.length - 1, Math.floor(q * v.length))];
  return [v[0], at(0.5), at(0.95), v.at(-1)].map((x) => x.toFixed(1));
}

async function start() {
  const begun = performance.now();
  const child = spawn(bin, ["demo", "--data", data, "--port", "0"], {
    stdio: ["ignore", "pipe", "ignore"],
  });
  let address = "";
  for await (const chunk of child.stdout) {
    address = /http:\/\/127\.0\.0\.1:\d+/.exec(String(chunk))?.[0] ?? "";
    if (address) break;
  }
  await fetch(`${address}/healthz`).then((r) => r.text());
  return { child, address, took: performance.now() - begun };
}
async function stop(child) {
  const gone = new Promise((done) => child.once("exit", done));
  child.kill("SIGTERM");
  await gone;
}

await stop((await start()).child);
const starts = [];
for (let i = 0; i < 10; i++) {
  const s = await start();
  starts.push(s.took);
  await stop(s.child);
}
rows.push(["start to first /healthz, ms (aim 200)", ...spread(starts)]);

const { child, address } = await start();
const project = `${address}/api/projects/moth`;
let revision = (await (await fetch(project)).json()).revision;
const rss = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))[1]) / 1024;
rows.push(["resident with the demo open, MB (aim 60)", ...spread([rss()])]);

const edits = [];
for (let i = 0; i < 60; i++) {
  const begun = performance.now();
  const answer = await fetch(project, {
    method: "PATCH",
    headers: { "if-match": String(revision), "content-type": "application/json" },
    body: JSON.stringify([{ op: "add", path: "/modules/deck/choices/underside", value: 240 + (i % 12) }]),
  });
  const text = await answer.text();
  edits.push(performance.now() - begun);
  if (!answer.ok) throw new Error(text);
  revision = JSON.parse(text).revision;
}
rows.push(["edit round trip, ms (aim 50)", ...spread(edits.slice(5))]);

const previews = [];
for (let i = 0; i < 60; i++) {
  const begun = performance.now();
  const answer = await fetch(`${project}/preview`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify([{ op: "add", path: "/modules/deck/choices/underside", value: 200 + i }]),
  });
  const text = await answer.text();
  previews.push(performance.now() - begun);
  if (!answer.ok) throw new Error(text);
}
rows.push(["drag: preview round trip, ms", ...spread(previews.slice(5))]);
rows.push(["resident after 120 plans, MB", ...spread([rss()])]);

// Drags in the browser, on the demo with all furniture: from the pointer's event until the frame that draws the answer
// is painted. Every step is another number: plans that were worked out before are kept.
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: FLAGS });
const sheet = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await sheet.addInitScript(() => {
  window.took = [];
  let moved = 0;
  addEventListener("pointermove", (e) => (moved = e.timeStamp), true);
  const ask = window.fetch;
  window.fetch = async (...request) => {
    const from = moved;
    const answer = await ask(...request);
    if (!String(request[0]).includes("/preview?")) return answer;
    const text = await answer.text();
    // The page takes the answer first; painting comes right after the frame's own callbacks.
    setTimeout(() =>
      requestAnimationFrame(() => setTimeout(() => window.took.push(performance.now() - from))),
    );
    return new Response(text, answer);
  };
});
/** Pulls at a place of the page; `to` is where the mouse is at each step. */
async function dragged(name, at, to) {
  await sheet.mouse.move(at.x, at.y);
  await sheet.mouse.down();
  for (let i = 1; i <= 43; i++) {
    const next = to(at, i);
    await sheet.mouse.move(next.x, next.y);
    await sheet.waitForFunction((n) => window.took.length >= n, i);
  }
  await sheet.mouse.up();
  const took = await sheet.evaluate(() => window.took);
  rows.push([`${name}, ms (aim 100)`, ...spread(took.slice(3))]);
}
await sheet.goto(`${address}/p/moth-whole/heights`);
const grip = await sheet.locator(".deck .grip").first().boundingBox();
const at = { x: grip.x + grip.width / 2, y: grip.y + grip.height - 10 };
await dragged("drag of the deck in Heights", at, ({ x, y }, i) => ({ x, y: y - 20 - i }));
await sheet.goto(`${address}/p/moth-whole/layout`);
await sheet.getByRole("button", { name: /^bench/ }).click();
const handle = sheet.getByRole("slider", { name: "From the threshold, in the drawing" });
const round = await handle.locator(".reach").boundingBox();
const middle = { x: round.x + round.width / 2, y: round.y + round.height / 2 };
// With Alt it does not catch: every step is another number.
await sheet.keyboard.down("Alt");
await dragged("drag of the bench in Layout", middle, ({ x, y }, i) => ({ x: x - 14 - i, y }));
await browser.close();

// Another project's listing while a survey of 5,000 readings is imported and planned.
const moth = (await (await fetch(project)).json()).project;
for (let i = 0; i < 5000 - Object.keys(moth.survey.readings).length; i++) {
  const side = i % 2 ? "left" : "right";
  const x = (i * 37) % 2000;
  const z = (i * 17) % 500;
  const mm = 705 + 0.00002 * x * (2000 - x) - 0.00008 * z * z + (((i * 7919) % 100) - 50) / 40;
  moth.survey.readings[`many${i}`] = {
    quantity: { of: "wall", side, x, z },
    typed: mm.toFixed(1),
    unit: "mm",
    instrument: "scan",
  };
}
const listings = [];
const whole = performance.now();
const importing = fetch(`${address}/api/projects/import`, {
  method: "POST",
  headers: { "content-type": "application/json" },
  body: JSON.stringify({ ...moth, name: "Many" }),
}).then((r) => r.json());
let done = false;
void importing.then(() => (done = true));
while (!done) {
  const begun = performance.now();
  await (await fetch(`${address}/api/projects`)).json();
  listings.push(performance.now() - begun);
}
await importing;
rows.push(["import and plan of 5,000 readings, ms (aim 1500)", ...spread([performance.now() - whole])]);
rows.push(["listing meanwhile, ms", ...spread(listings)]);

// What the first page loads: every script it names and what those import at once.
const page = await (await fetch(address)).text();
const seen = new Set();
const queue = [...page.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map((m) => m[1]);
let bytes = 0;
while (queue.length) {
  const path = queue.pop();
  if (seen.has(path)) continue;
  seen.add(path);
  const text = await (await fetch(address + path)).text();
  bytes += gzipSync(text).length;
  for (const m of text.matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g)) queue.push(`/assets/${m[1]}`);
}
rows.push(["first-load JavaScript, kB gzip (aim 350)", ...spread([bytes / 1000])]);
await stop(child);
await rm(data, { recursive: true, force: true });

console.log(["", "min", "median", "p95", "max"].map((h, i) => (i ? h.padStart(8) : h.padEnd(44))).join(""));
for (const [name, ...values] of rows)
  console.log(name.padEnd(44) + values.map((v) => v.padStart(8)).join(""));
