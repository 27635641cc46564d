// Draws a region over a team's own picture, corner by corner. The corners travel in a text field that works without this file.
(() => {
  "use strict";
  const form = document.querySelector("[data-outline]");
  const picture = form?.querySelector("[data-picture]");
  const field = form?.querySelector("[name=Corners]");
  const now = form?.querySelector("[data-now]");
  if (!picture || !field || !now) return;
  const corners = () => field.value.split(/\s+/).filter(Boolean);
  const draw = () => {
    const c = corners();
    now.setAttribute("d", c.length === 0 ? "" : `M${c.join("L")}${c.length > 2 ? "Z" : ""}${c.map((p) => `M${p}h.01`).join("")}`);
  };
  picture.addEventListener("pointerdown", (e) => {
    e.preventDefault();
    const box = picture.getBoundingClientRect();
    const part = (v, from, size) => Math.min(100, Math.max(0, ((v - from) / size) * 100)).toFixed(1).replace(/\.0$/, "");
    field.value = [...corners(), `${part(e.clientX, box.left, box.width)},${part(e.clientY, box.top, box.height)}`].join(" ");
    draw();
  });
  form.querySelector("[data-undo]")?.addEventListener("click", () => { field.value = corners().slice(0, -1).join(" "); draw(); });
  field.addEventListener("input", draw);
  draw();
})();
