// Draws over a photo with a finger, a pen or a mouse. The marks travel in a text field that works without this file.
(() => {
  "use strict";
  const NS = "http://www.w3.org/2000/svg";
  document.querySelectorAll("[data-marking]").forEach((form) => {
    const field = form.querySelector("[name=Marks]");
    const canvas = form.querySelector("[data-canvas]");
    const file = form.querySelector("input[type=file]");
    if (!field || !canvas) return;
    let over = null;
    let size = [Number(canvas.dataset.width) || 0, Number(canvas.dataset.height) || 0];
    const marks = () => field.value.split("\n").map((l) => l.trim()).filter(Boolean);
    const tool = () => form.querySelector("[name=Tool]:checked")?.value ?? "circle";

    const path = (kind, x1, y1, x2, y2) => {
      if (kind === "circle") {
        const rx = Math.abs(x2 - x1) / 2, ry = Math.abs(y2 - y1) / 2;
        return `M${Math.min(x1, x2)} ${(y1 + y2) / 2}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0`;
      }
      const line = Math.max(2, Math.max(...size) / 220), a = Math.atan2(y2 - y1, x2 - x1);
      const barb = (t) => `M${x2} ${y2}L${x2 - line * 7 * Math.cos(a + t)} ${y2 - line * 7 * Math.sin(a + t)}`;
      return `M${x1} ${y1}L${x2} ${y2}${barb(0.45)}${barb(-0.45)}`;
    };
    const add = (name, attributes, words) => {
      const e = document.createElementNS(NS, name);
      Object.entries(attributes).forEach(([k, v]) => e.setAttribute(k, v));
      if (words) e.textContent = words;
      over.append(e);
    };
    const draw = (extra) => {
      if (!over) return;
      over.replaceChildren();
      const line = Math.max(2, Math.max(...size) / 220);
      [...marks(), ...(extra ? [extra] : [])].forEach((m) => {
        const [kind, ...rest] = m.split(" ");
        if (kind === "words") {
          add("text", { x: rest[0], y: Math.max(line * 8, Number(rest[1])), "font-size": line * 8, "font-weight": 600, class: "said", "stroke-width": line * 1.6 }, rest.slice(2).join(" "));
          return;
        }
        const d = path(kind, ...rest.map(Number));
        add("path", { d, class: "edge", "stroke-width": line * 2.4 });
        add("path", { d, class: "ink", "stroke-width": line });
      });
    };

    const open = () => {
      const img = canvas.querySelector("img");
      if (!img) return;
      const shell = img.closest(".marked") ?? (() => {
        const s = document.createElement("span");
        s.className = "marked";
        img.replaceWith(s);
        s.append(img);
        return s;
      })();
      shell.querySelector("svg")?.remove();
      over = document.createElementNS(NS, "svg");
      over.setAttribute("class", "over");
      over.setAttribute("viewBox", `0 0 ${size[0]} ${size[1]}`);
      over.setAttribute("preserveAspectRatio", "none");
      shell.append(over);
      draw();
      let from = null;
      const at = (e) => {
        const r = over.getBoundingClientRect();
        return [Math.round(Math.min(1, Math.max(0, (e.clientX - r.left) / r.width)) * size[0]), Math.round(Math.min(1, Math.max(0, (e.clientY - r.top) / r.height)) * size[1])];
      };
      over.addEventListener("pointerdown", (e) => {
        e.preventDefault();
        over.setPointerCapture(e.pointerId);
        if (tool() === "words") {
          const say = form.querySelector("[data-say]");
          const words = say?.value.trim();
          if (!words) { say?.focus(); return; }
          field.value = [...marks(), `words ${at(e).join(" ")} ${words}`].join("\n");
          say.value = "";
          draw();
          return;
        }
        from = at(e);
      });
      over.addEventListener("pointermove", (e) => { if (from) draw(`${tool()} ${from.join(" ")} ${at(e).join(" ")}`); });
      over.addEventListener("pointerup", (e) => {
        if (!from) return;
        const to = at(e);
        if (Math.hypot(to[0] - from[0], to[1] - from[1]) > Math.max(...size) / 60) field.value = [...marks(), `${tool()} ${from.join(" ")} ${to.join(" ")}`].join("\n");
        from = null;
        draw();
      });
      over.addEventListener("pointercancel", () => { from = null; draw(); });
    };

    form.querySelector("[data-undo]")?.addEventListener("click", () => { field.value = marks().slice(0, -1).join("\n"); draw(); });
    if (size[0] > 0) open();

    // A photo that was only just taken: it is shown at once, and marked before anything is sent.
    file?.addEventListener("change", () => {
      const picture = file.files?.[0];
      canvas.replaceChildren();
      field.value = "";
      form.querySelector("[data-tools]")?.toggleAttribute("hidden", !picture);
      if (!picture) return;
      const img = new Image();
      img.alt = "The photo that you chose";
      img.onload = () => {
        size = [img.naturalWidth, img.naturalHeight];
        open();
        URL.revokeObjectURL(img.src);
      };
      img.onerror = () => { canvas.replaceChildren(); form.querySelector("[data-tools]")?.setAttribute("hidden", ""); };
      canvas.append(img);
      img.src = URL.createObjectURL(picture);
    });
  });
})();
