// Times a package of 300 steps, made through the pages of the running demo.
// usage: node bench/packages.mjs ADDRESS LOG [ROUNDS]
import { readFileSync } from "node:fs";
import { median, session } from "./session.mjs";

const [address, log, rounds = "40"] = process.argv.slice(2);
if (!address?.startsWith("http://127.0.0.1:") || !log) { console.error("usage: node bench/packages.mjs http://127.0.0.1:PORT LOG [ROUNDS]"); process.exit(2); }
const { send, page, token, close } = await session(address);
const lines = Array.from({ length: 300 }, (_, n) => n % 20 === 19 ? `HOLD Row ${n + 1} gauged` : `ream row ${n + 1} 2-3-5 h, 2 people`).join("\n");
const form = await page("/work/new?m=G");
const field = (name) => form.match(new RegExp(`name="${name}"[^>]*value="([^"]*)"`))?.[1] ?? "";
const made = await send("/work/new?m=G", { method: "POST", body: new URLSearchParams({ key: crypto.randomUUID(), __RequestVerificationToken: token(form), m: "G", Title: "Timing", Purpose: "Timing", Lines: lines, Place: field("Place") }).toString() });
if (made.status !== 302) throw new Error(`not made: ${made.status}`);
const pack = new URL(made.headers.location, address).pathname;
console.log(`\na package of 300 steps, medians of ${rounds}`);
for (const path of [pack, pack + "/1", pack + "/steps", pack + "/sheet", "/work"]) {
  for (let i = 0; i < Number(rounds) + 5; i++) {
    const r = await send(path);
    if (r.status !== 200) throw new Error(`${path}: ${r.status}`);
  }
  const server = readFileSync(log, "utf8").split("\n").filter((l) => l.includes(`"RequestPath":"${path}"`)).map((l) => JSON.parse(l).Elapsed).slice(-Number(rounds));
  console.log(path.replace(/\d+/, "…").padEnd(66) + median(server).toFixed(1).padStart(9) + " ms");
}
close();
