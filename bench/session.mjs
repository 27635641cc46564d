// A signed-in visitor of the running demo over one connection, for the timing scripts.
import http from "node:http";

export const median = (list) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];

export async function session(address, person = "una") {
  const agent = new http.Agent({ keepAlive: true, maxSockets: 1 });
  const cookies = new Map();
  const send = (path, { method = "GET", body, type = "application/x-www-form-urlencoded", gzip = false } = {}) => new Promise((resolve, reject) => {
    const start = process.hrtime.bigint();
    const request = http.request(address + path, { method, agent, headers: {
      cookie: [...cookies].map(([k, v]) => `${k}=${v}`).join("; "),
      ...(gzip ? { "accept-encoding": "br" } : {}),
      ...(body ? { "content-type": type, "content-length": Buffer.byteLength(body) } : {}) } }, (response) => {
      for (const c of response.headers["set-cookie"] ?? []) { const [pair] = c.split(";"); const at = pair.indexOf("="); cookies.set(pair.slice(0, at), pair.slice(at + 1)); }
      const chunks = [];
      response.on("data", (c) => chunks.push(c));
      response.on("end", () => resolve({ status: response.statusCode, headers: response.headers, body: Buffer.concat(chunks), ms: Number(process.hrtime.bigint() - start) / 1e6 }));
    });
    request.on("error", reject);
    request.end(body);
  });
  const page = async (path) => { const r = await send(path); if (r.status !== 200) throw new Error(`${path}: ${r.status}`); return r.body.toString(); };
  const token = (html) => html.match(/name="__RequestVerificationToken" type="hidden" value="([^"]+)"/)?.[1];
  await send("/sign-in?handler=Demo", { method: "POST", body: new URLSearchParams({ person, __RequestVerificationToken: token(await page("/sign-in")) }).toString() });
  return { send, page, token, close: () => agent.destroy() };
}
