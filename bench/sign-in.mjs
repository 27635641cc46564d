// Times wrong passwords of names that are there beside names that are not, in turns: both should take as long.
// usage: node bench/sign-in.mjs ADDRESS     (./oiltag bench starts the demo with a limit that lets it try so often)
import { session, median } from "./session.mjs";

const [address] = process.argv.slice(2);
const { send, page, token, close } = await session(address);
const html = await page("/sign-in");
const known = [...html.matchAll(/name="person" value="([^"]+)"/g)].map((m) => m[1]);
const times = { known: [], unknown: [] };

// Four tries a name: after five the device is not listened to any more.
for (let round = 0; round < 4; round++) {
  for (const [n, name] of known.entries()) {
    for (const [kind, typed] of [["known", name], ["unknown", `nobody${n}`]]) {
      const r = await send("/sign-in", { method: "POST", body: new URLSearchParams({ Name: typed, Password: `guess number ${round}`, __RequestVerificationToken: token(html) }).toString() });
      if (r.status !== 422 || !r.body.toString().includes("do not match")) throw new Error(`${typed}: ${r.status}`);
      if (round > 0) times[kind].push(r.ms);
    }
  }
}
console.log(`\na wrong password, ${times.known.length} of each: known names median ${median(times.known).toFixed(1)} ms, unknown names ${median(times.unknown).toFixed(1)} ms, ratio ${(median(times.known) / median(times.unknown)).toFixed(3)}`);
close();
