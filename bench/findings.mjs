// Times the list of findings on a record with many of them (./oiltag bench adds 20,000 to the demo first).
// usage: node bench/findings.mjs ADDRESS LOG [ROUNDS]
import { readFileSync } from "node:fs";
import { median, session } from "./session.mjs";

const [address, log, rounds = "60"] = process.argv.slice(2);
if (!address?.startsWith("http://127.0.0.1:") || !log) { console.error("usage: node bench/findings.mjs http://127.0.0.1:PORT LOG [ROUNDS]"); process.exit(2); }
const { send, page, close } = await session(address);
const total = (await page("/survey")).match(/<p>([\d,]+)/)?.[1];
const asked = ["/survey", "/survey?state=Open", "/survey?wear=Past&by=Wear", "/survey?q=groove&state=Settled", "/survey?m=M&by=Place", "/survey?by=Age&sheet=100"];
console.log(`\nthe list of ${total} findings, medians of ${rounds}`);
for (const path of asked) {
  for (let i = 0; i < Number(rounds) + 5; i++) {
    const r = await send(path);
    if (r.status !== 200) throw new Error(`${path}: ${r.status}`);
  }
  const server = readFileSync(log, "utf8").split("\n").filter((l) => l.includes('"RequestPath":"/survey"')).map((l) => JSON.parse(l).Elapsed).slice(-Number(rounds));
  console.log(path.padEnd(52) + median(server).toFixed(1).padStart(9) + " ms");
}
close();
