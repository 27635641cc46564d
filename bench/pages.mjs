// Times every page of the running demo, one request at a time over loopback, beside an empty page of the same application.
// usage: node bench/pages.mjs ADDRESS PID LOG [REQUESTS]      (./oiltag bench [REQUESTS] starts the demo and calls it)
// "server" is the time that the application itself logs for a request; "client" adds the loopback and this script.
import { readFileSync } from "node:fs";
import { session } from "./session.mjs";

const [address, pid, log, requests = "200"] = process.argv.slice(2);
const many = Math.min(2000, Math.max(10, Number(requests)));
if (!address?.startsWith("http://127.0.0.1:")) { console.error("usage: node bench/pages.mjs http://127.0.0.1:PORT PID LOG [REQUESTS]"); process.exit(2); }
if (!log) { console.error("name the log of the web process"); process.exit(2); }
const { send, page, close } = await session(address);
const first = (html, pattern) => html.match(pattern)?.[1];

const shed = await page("/"), strip = await page("/strip"), survey = await page("/survey"), work = await page("/work"), make = await page("/make"), plan = await page("/plan");
const tag = first(strip, /href="(\/t\/\d+)"/);
const pack = first(work, /href="(\/w\/\d+)"/);
const empty = "/keys";
const paths = [empty, "/", "/machines/M", "/machines/G", first(shed, /href="(\/places\/[^"]+)"/), "/strip", tag, tag + "/refit", "/strip/take-off?m=M", "/survey", first(survey, /href="(\/f\/\d+)"/), first(survey, /href="(\/f\/\d+)"/) + "/edit",
  "/survey/new?tag=" + tag.split("/")[2], "/work", pack, pack + "/1", pack + "/steps", "/work/new?m=G&from=Riveted", "/work/library", "/make", first(make, /href="(\/r\/\d+)"/), "/plan", first(plan, /href="(\/plan\/[^"]+)"/), "/today", "/log", "/me", "/jump?q=door",
  "/bench", "/bench/bars", "/bench/tables", "/bench/tables/threads?q=1/2", "/lifts/1", "/lifts/1/live", "/g/7", "/machines/G/fixtures", "/machines/G/schedule", "/r/9/evidence"];

// Rounds over all pages, so that whatever else the machine does falls on each of them alike.
const times = new Map(paths.map((p) => [p, []]));
const sizes = new Map();
for (let round = 0; round < many + 10; round++) {
  for (const p of paths) {
    const r = await send(p);
    if (r.status !== 200) throw new Error(`${p}: ${r.status}`);
    if (round >= 10) times.get(p).push(r.ms);
    sizes.set(p, r.body.length);
  }
}
const at = (list, q) => list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))];
const server = new Map(paths.map((p) => [p.split("?")[0], []]));
for (const line of readFileSync(log, "utf8").split("\n")) {
  if (!line.includes('"RequestPath"')) continue;
  const entry = JSON.parse(line);
  if (entry.StatusCode === 200) server.get(entry.RequestPath)?.push(entry.Elapsed);
}
const last = (p) => server.get(p.split("?")[0]).slice(-many);
const base = at(last(empty), 0.5);
console.log(`${many} requests a page, one at a time, milliseconds; ratio to the empty page ${empty}\n`);
console.log("page".padEnd(46) + "server".padStart(8) + "p95".padStart(8) + "ratio".padStart(8) + "client".padStart(8) + "html kB".padStart(9));
for (const p of paths) {
  const s = last(p), median = at(s, 0.5);
  console.log(p.slice(0, 44).padEnd(46) + median.toFixed(2).padStart(8) + at(s, 0.95).toFixed(2).padStart(8) + (median / base).toFixed(1).padStart(8) + at(times.get(p), 0.5).toFixed(2).padStart(8) + (sizes.get(p) / 1000).toFixed(1).padStart(9));
}

// Every calculator with its own example: medians of ten answered pages each, of which the first two do not count.
const bench = await page("/bench");
const answered = [];
for (const key of new Set([...bench.matchAll(/href="(\/bench\/[a-z0-9-]+)"/g)].map((m) => m[1]).filter((k) => !["/bench/tables", "/bench/kept"].includes(k)))) {
  const example = first(await page(key), /href="(\/bench\/[^"]+\?[^"]+)"[^>]*>Show me an example/)?.replaceAll("&amp;", "&");
  if (!example) throw new Error(`${key} has no example`);
  for (let n = 0; n < 12; n++) { const r = await send(example); if (r.status !== 200 || !r.body.toString().includes("bench-figures")) throw new Error(`${example}: ${r.status}`); }
  answered.push(key);
}
const sums = new Map(answered.map((k) => [k, []]));
for (const line of readFileSync(log, "utf8").split("\n")) {
  if (!line.includes('"RequestPath":"/bench/')) continue;
  const entry = JSON.parse(line);
  if (entry.StatusCode === 200) sums.get(entry.RequestPath)?.push(entry.Elapsed);
}
const medians = answered.map((k) => [k, at(sums.get(k).slice(-10), 0.5)]).sort((a, b) => a[1] - b[1]);
console.log(`\n${answered.length} calculators answered as pages: median ${at(medians.map((m) => m[1]), 0.5).toFixed(2)} ms, slowest ${medians.at(-1)[0]} ${medians.at(-1)[1].toFixed(2)} ms`);

// The first page as a new browser gets it: the page, styles, scripts and fonts, compressed.
const html = (await send("/", { gzip: true }));
let total = html.body.length;
const assets = new Set([...shed.matchAll(/(?:src|href)="(\/[^"]+\.(?:css|js|svg|woff2))"/g)].map((m) => m[1]));
const css = await send([...assets].find((a) => a.includes("app") && a.endsWith(".css")));
for (const m of css.body.toString().matchAll(/url\(([^)]+\.woff2)\)/g)) assets.add(m[1].replaceAll(/["']/g, ""));
for (const a of assets) { const r = await send(a, { gzip: true }); if (r.status !== 200) throw new Error(`${a}: ${r.status}`); total += r.body.length; }
console.log(`\nfirst page with ${assets.size} files: ${(total / 1000).toFixed(0)} kB transferred`);
if (pid) console.log(`web process: ${(Number(first(readFileSync(`/proc/${pid}/status`, "utf8"), /VmRSS:\s+(\d+)/)) / 1024).toFixed(0)} MB resident`);
close();
