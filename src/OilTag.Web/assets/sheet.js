// Fills the cells of a survey by keyboard, by paste and from the gauge. Without it the page offers a block to type into.
(() => {
  "use strict";
  const form = document.getElementById("fill");
  const pane = document.querySelector(".cellpane");
  const svg = pane?.querySelector("svg.cells");
  if (!form || !svg) return;

  const { rows, columns, starts, ends, centre, columnsAre } = JSON.parse(form.dataset.shape);
  const values = form.dataset.values.split("|").map((line) => line.split(","));
  const input = document.getElementById("cell");
  const name = document.getElementById("cellname");
  const said = document.getElementById("said");
  const save = document.getElementById("save");
  const doubt = document.getElementById("doubt");
  const gauge = document.getElementById("gauge");
  const hidden = form.querySelector("textarea[name=Cells]");
  const cursor = svg.querySelector("rect.cursor");
  const [width, height] = [Number(cursor.getAttribute("width")), Number(cursor.getAttribute("height"))];
  const [left, top, gap] = [Number(svg.dataset.x), Number(svg.dataset.y), Number(svg.dataset.gap)];
  const store = `oiltag-sheet-${form.dataset.sheet}`;
  const layer = svg.insertBefore(document.createElementNS("http://www.w3.org/2000/svg", "g"), cursor);
  const pending = new Map();
  let at = { r: 1, c: 1 };
  let way = [0, 1];
  let offered = "";

  const has = (r, c) => r >= 1 && r <= rows.length && c >= 1 && c <= columns.length && (!starts[r - 1] || c >= starts[r - 1]) && (!ends[r - 1] || c <= ends[r - 1]);
  const label = (r, c) => columnsAre ? `${rows[r - 1]}, ${columnsAre} ${columns[c - 1]}` : `${rows[r - 1]}, ${columns[c - 1]}`;
  const x = (c) => left + (c - 1) * width;
  const y = (r) => top + (r - 1) * height + (centre && r > centre ? gap : 0);
  const words = (v) => !v ? "empty" : v === "?" ? "cannot be seen yet" : v[0] === "(" ? `${v.slice(1, -1)}, not measured` : v.replace(/[!~*]/g, "") + (v.includes("!") ? ", beyond limit" : v.includes("~") ? ", at limit" : "") + (v.includes("*") ? ", stands out" : "");
  const keyOf = (p) => `${p.r}\t${p.c}`;

  const make = (tag, attributes, text) => {
    const e = document.createElementNS("http://www.w3.org/2000/svg", tag);
    for (const [k, v] of Object.entries(attributes)) e.setAttribute(k, v);
    if (text) e.textContent = text;
    return e;
  };

  const short = (text) => {
    const bare = text.replace(/[a-z\s"]+(?=;|$)/gi, "").replace(/^0(?=\.\d{3})/, "");
    return bare.length > 5 ? bare.slice(0, 4) + "…" : bare || text.slice(0, 5);
  };

  const draw = () => {
    layer.replaceChildren();
    for (const [key, text] of pending) {
      const [r, c] = key.split("\t").map(Number);
      layer.append(
        make("rect", { class: "typed", x: x(c) + 2, y: y(r) + 2, width: width - 4, height: height - 4 }),
        make("text", { class: "v typedtext", x: x(c) + width / 2, y: y(r) + 25, "text-anchor": "middle" }, short(text)));
    }
    save.textContent = pending.size === 0 ? "Save" : pending.size === 1 ? "Save 1 cell" : `Save ${pending.size} cells`;
    hidden.value = [...pending].map(([key, text]) => `${key}\t${text}`).join("\n");
    try {
      if (pending.size > 0) localStorage.setItem(store, JSON.stringify({ key: form.elements.key.value, at, cells: [...pending] }));
      else localStorage.removeItem(store);
    } catch { /* a browser that keeps nothing still saves */ }
  };

  const show = () => {
    cursor.setAttribute("x", x(at.c));
    cursor.setAttribute("y", y(at.r));
    cursor.setAttribute("visibility", "visible");
    name.textContent = label(at.r, at.c);
    input.value = pending.get(keyOf(at)) ?? "";
    input.placeholder = values[at.r - 1]?.[at.c - 1]?.replace(/[!~*()]/g, "") ?? "";
    input.select();
    const paneBox = pane.getBoundingClientRect();
    const box = cursor.getBoundingClientRect();
    if (box.left < paneBox.left + 8) pane.scrollLeft -= paneBox.left + 8 - box.left;
    if (box.right > paneBox.right - 8) pane.scrollLeft += box.right - paneBox.right + 8;
    offer("");
  };

  const say = (text) => { said.textContent = text; };

  const go = (dr, dc) => {
    way = [dr, dc];
    for (let r = at.r + dr, c = at.c + dc; r >= 1 && r <= rows.length && c >= 1 && c <= columns.length; r += dr, c += dc) {
      if (has(r, c)) { at = { r, c }; break; }
    }
    show();
    say(`${label(at.r, at.c)}: ${pending.get(keyOf(at)) ?? words(values[at.r - 1]?.[at.c - 1])}`);
  };

  // What is in the field goes into the cell; an emptied field takes back what was typed.
  const keep = () => {
    const text = input.value.trim();
    const before = pending.get(keyOf(at)) ?? "";
    if (text === before) return;
    if (text) pending.set(keyOf(at), text); else pending.delete(keyOf(at));
    draw();
  };

  const offer = (text) => { offered = text; doubt.hidden = !text; };

  const take = (text) => {
    const before = pending.get(keyOf(at));
    input.value = before && before !== "-" && before !== "?" ? `${before}; ${text}` : text;
    keep();
    say(`${label(at.r, at.c)}: ${input.value}. Press again for a second reading here, or an arrow key to go on.`);
    offer("");
  };

  const ask = async () => {
    if (!gauge || gauge.getAttribute("aria-busy")) return;
    keep();
    const asked = { ...at };
    gauge.setAttribute("aria-busy", "true");
    say("Hold the probe still…");
    try {
      const body = new FormData(form);
      body.set("Row", asked.r);
      body.set("Column", asked.c);
      body.delete("Cells");
      const answer = await fetch(`/s/${form.dataset.sheet}?handler=Gauge`, { method: "POST", body, headers: { Accept: "application/json" } });
      if (!answer.ok) throw new Error(String(answer.status));
      const { text, sentence } = await answer.json();
      if (asked.r !== at.r || asked.c !== at.c) say("You went on before the gauge answered. Press again.");
      else if (sentence) { say(sentence); offer(text); }
      else take(text);
    } catch {
      say("The reading did not arrive. Press again, or type it.");
    } finally {
      gauge.removeAttribute("aria-busy");
      input.focus();
    }
  };

  const paste = (text) => {
    const lines = text.replace(/\r/g, "").replace(/\n+$/, "").split("\n").map((l) => l.split("\t"));
    let n = 0, beside = 0;
    lines.forEach((line, i) => line.forEach((cell, j) => {
      const t = cell.trim();
      if (!t) return;
      if (!has(at.r + i, at.c + j)) { beside++; return; }
      pending.set(`${at.r + i}\t${at.c + j}`, t);
      n++;
    }));
    draw();
    show();
    say(`${n} ${n === 1 ? "cell" : "cells"} pasted from ${label(at.r, at.c)} on.${beside ? ` ${beside} lay beside the sheet and were left out.` : ""} Look, then save.`);
  };

  const arrows = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };
  const onKey = (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    if (arrows[e.key]) { e.preventDefault(); keep(); go(...arrows[e.key]); }
    else if (e.key === "Enter" && e.target === input) { e.preventDefault(); keep(); go(...way); }
    else if (e.target === pane) {
      if (/^[0-9.?-]$/.test(e.key)) { e.preventDefault(); input.focus(); input.value = e.key; }
      else if (e.key === "Enter") { e.preventDefault(); input.focus(); }
      else if (e.key === "Delete" || e.key === "Backspace") { e.preventDefault(); input.value = "-"; keep(); }
      else if (e.key === "g") { e.preventDefault(); ask(); }
      else return;
    } else return;
    e.stopPropagation();
  };
  input.addEventListener("keydown", onKey);
  pane.addEventListener("keydown", onKey);
  for (const e of [input, pane]) {
    e.addEventListener("paste", (p) => {
      const text = p.clipboardData?.getData("text") ?? "";
      if (e === pane || /[\t\n]/.test(text.trimEnd())) { p.preventDefault(); keep(); paste(text); }
    });
  }
  svg.addEventListener("click", (e) => {
    const box = svg.getBoundingClientRect();
    const scale = svg.viewBox.baseVal.width / box.width;
    const [px, py] = [(e.clientX - box.left) * scale, (e.clientY - box.top) * scale];
    const c = Math.floor((px - left) / width) + 1;
    for (let r = 1; r <= rows.length; r++) {
      if (py >= y(r) && py < y(r) + height && has(r, c)) { keep(); at = { r, c }; show(); say(`${label(r, c)}: ${words(values[r - 1]?.[c - 1])}`); input.focus({ preventScroll: true }); return; }
    }
  });
  input.addEventListener("change", keep);
  gauge?.addEventListener("click", ask);
  document.getElementById("again").addEventListener("click", ask);
  document.getElementById("keep").addEventListener("click", () => { take(offered); input.focus(); });
  form.addEventListener("submit", keep, { capture: true });
  window.addEventListener("beforeunload", (e) => { if (pending.size > 0 && !form.dataset.sent) e.preventDefault(); });

  // What was refused comes back from the server; what was never sent comes back from this browser.
  const restore = () => {
    for (const line of hidden.value.split("\n")) {
      const parts = line.split("\t");
      if (parts.length === 3) pending.set(`${parts[0]}\t${parts[1]}`, parts[2]);
    }
    let kept = null;
    try { kept = JSON.parse(localStorage.getItem(store) ?? "null"); } catch { /* nothing that can be read */ }
    if (kept?.at && has(kept.at.r, kept.at.c)) at = kept.at;
    if (!kept || pending.size > 0) return;
    if (new URLSearchParams(location.search).get("saved") === kept.key) { say("Saved."); return; }
    kept.cells.forEach(([key, text]) => pending.set(key, text));
    if (pending.size > 0) say(`${pending.size === 1 ? "1 cell" : `${pending.size} cells`} from before, not saved yet.`);
  };

  if (!has(1, 1)) { for (let c = 1; c <= columns.length; c++) if (has(1, c)) { at = { r: 1, c }; break; } }
  restore();
  draw();
  show();
})();
