// Times a machine with 2,000 assemblies and 20,000 tags (./oiltag bench adds them to the demo first).
// usage: node bench/strip.mjs ADDRESS LOG [ROUNDS]
import { readFileSync } from "node:fs";
import { median, session } from "./session.mjs";

const [address, log, rounds = "40"] = process.argv.slice(2);
if (!address?.startsWith("http://127.0.0.1:") || !log) { console.error("usage: node bench/strip.mjs http://127.0.0.1:PORT LOG [ROUNDS]"); process.exit(2); }
const { send, page, token, close } = await session(address);
const machine = await page("/machines/L");
const place = machine.match(/href="(\/places\/[^"]+)"/)[1];
console.log(`\na machine with 2,000 assemblies and 19,600 open tags more, medians of ${rounds}`);
const number = (await page("/strip?m=L")).match(/href="\/t\/(\d+)"/)[1];
const asked = ["/machines/L", `/jump?q=${number}`, "/jump?q=trunnion", "/jump?q=Retainig+rng", "/jump?q=TN-777", "/jump?q=rack", place, place + "/reach", place + "/close", "/machines/L/sequence", `/t/${number}`, `/t/${number}/refit`, "/strip?m=L", "/strip/where"];
for (const path of asked) {
  for (let i = 0; i < Number(rounds) + 5; i++) {
    const r = await send(path);
    if (![200, 302].includes(r.status)) throw new Error(`${path}: ${r.status}`);
  }
  const server = readFileSync(log, "utf8").split("\n").filter((l) => l.includes(`"RequestPath":"${path.split("?")[0]}"`)).map((l) => JSON.parse(l).Elapsed).slice(-Number(rounds));
  console.log(path.padEnd(66).slice(0, 66) + median(server).toFixed(1).padStart(9) + " ms");
}

// The machine right after somebody recorded something, when nothing that was kept still holds.
const after = [];
for (let i = 0; i < 12; i++) {
  const html = await page("/machines/L/standing");
  await send("/machines/L/standing?handler=System", { method: "POST", body: new URLSearchParams({ key: crypto.randomUUID(), __RequestVerificationToken: token(html), SystemName: "Timing oil", State: i % 2 ? "Full" : "Drained" }).toString() });
  await send("/machines/L");
  after.push(readFileSync(log, "utf8").split("\n").filter((l) => l.includes('"RequestPath":"/machines/L"')).map((l) => JSON.parse(l).Elapsed).at(-1));
}
console.log("/machines/L after each write".padEnd(66) + median(after).toFixed(1).padStart(9) + " ms");
close();
