// Times a large survey sheet of the running demo: its page, its patterns, and the preview of a large CSV file. It plans the sheets that it needs.
// usage: node bench/sheets.mjs ADDRESS LOG [ROUNDS]      (./oiltag bench starts the demo and calls it)
import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { median, session } from "./session.mjs";

const [address, log, rounds = "15"] = process.argv.slice(2);
if (!address?.startsWith("http://127.0.0.1:") || !log) { console.error("usage: node bench/sheets.mjs http://127.0.0.1:PORT LOG [ROUNDS]"); process.exit(2); }
const { send, page, token, close } = await session(address);
const place = (await page("/machines/M")).match(/href="\/places\/([^"]+)"/)[1];

const plan = async (title, rows, columns) => {
  const path = `/survey/plan?place=${place}`;
  const body = new URLSearchParams({ key: randomUUID(), __RequestVerificationToken: token(await page(path)), Title: title, Feature: "Thickness", Unit: "mm", Rows: `1-${rows}`, Columns: `1-${columns}`, Nominal: "10 mm", LimitService: "8 mm" });
  const answer = await send(path, { method: "POST", body: body.toString() });
  if (answer.status !== 302) throw new Error(`plan: ${answer.status}`);
  return answer.headers.location;
};

// Readings like those of a plate with a worn band; the same on every run.
let seed = 417;
const dice = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
const csv = (rows, columns) => "row,column,reading\n" + Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (_, c) => `${r + 1},${c + 1},${(9.8 - dice() * 0.3 - (r === 40 ? 1.7 : 0)).toFixed(2)}`).join("\n")).join("\n");

const upload = async (sheet, text) => {
  const edge = "----" + randomUUID();
  const field = (name, value) => `--${edge}\r\nContent-Disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`;
  const body = field("key", randomUUID()) + field("__RequestVerificationToken", token(await page(sheet))) + `--${edge}\r\nContent-Disposition: form-data; name="file"; filename="readings.csv"\r\nContent-Type: text/csv\r\n\r\n${text}\r\n--${edge}--\r\n`;
  const answer = await send(sheet + "?handler=Import", { method: "POST", body, type: `multipart/form-data; boundary=${edge}` });
  if (answer.status !== 302) throw new Error(`upload: ${answer.status}`);
  return { preview: answer.headers.location, ms: answer.ms };
};

const timed = async (path, options) => {
  const list = [];
  let bytes = 0;
  for (let i = 0; i < Number(rounds) + 3; i++) {
    const r = await send(path, options);
    if (r.status !== 200) throw new Error(`${path}: ${r.status}`);
    if (i >= 3) list.push(r.ms);
    bytes = r.body.length;
  }
  return { ms: median(list), bytes };
};
const server = (path) => {
  const list = readFileSync(log, "utf8").split("\n").filter((l) => l.includes(`"RequestPath":"${path}"`)).map((l) => JSON.parse(l)).filter((e) => e.StatusCode === 200 && e.RequestMethod === "GET").map((e) => e.Elapsed);
  return median(list.slice(-Number(rounds)));
};
const line = (what, ms, more = "") => console.log(what.padEnd(52) + ms.toFixed(1).padStart(9) + " ms  " + more);

const sheet = await plan("Timing: 100 by 100", 100, 100);
const { preview } = await upload(sheet, csv(100, 100));
const started = process.hrtime.bigint();
const taken = await send(preview, { method: "POST", body: new URLSearchParams({ key: randomUUID(), Loaded: new Date().toISOString(), __RequestVerificationToken: token(await page(preview)) }).toString() });
if (taken.status !== 302) throw new Error(`take: ${taken.status}`);
console.log(`\nsurvey sheets, medians of ${rounds}`);
line("10,000 readings taken from a file, once", Number(process.hrtime.bigint() - started) / 1e6);
const whole = await timed(sheet, { gzip: true });
line("page of 10,000 readings, server", server(sheet), `${(whole.bytes / 1000).toFixed(0)} kB transferred`);
await timed(sheet + "?handler=Patterns");
line("its patterns (with loading the sheet), server", server(sheet));
const wide = await plan("Timing: 250 by 200", 250, 200);
const large = await upload(wide, csv(250, 200));
line("CSV of 50,000 readings brought, once", large.ms);
await timed(large.preview);
line("preview of the 50,000 readings, server", server(large.preview));
close();
