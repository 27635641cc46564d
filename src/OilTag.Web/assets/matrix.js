// Arrow keys in the table of a matrix survey, and a block pasted from a spreadsheet. The table works without this file.
(() => {
  "use strict";
  const table = document.querySelector("#matrix table");
  if (!table) return;
  const field = (p, c) => table.querySelector(`[data-at="${p}-${c}"]`);
  const at = (e) => e.target instanceof HTMLInputElement && e.target.dataset.at ? e.target.dataset.at.split("-").map(Number) : null;
  table.addEventListener("keydown", (e) => {
    const here = at(e);
    if (!here || e.ctrlKey || e.metaKey || e.altKey) return;
    const { selectionStart, selectionEnd, value } = e.target;
    const whole = selectionStart === 0 && selectionEnd === value.length;
    const step = { ArrowUp: [0, -1], ArrowDown: [0, 1], Enter: [0, 1] }[e.key]
      ?? (e.key === "ArrowLeft" && (whole || selectionEnd === 0) ? [-1, 0] : e.key === "ArrowRight" && (whole || selectionStart === value.length) ? [1, 0] : null);
    if (!step) return;
    const to = field(here[0] + step[0], here[1] + step[1]) ?? (e.key === "Enter" ? field(here[0] + 1, 1) : null);
    if (!to) return;
    e.preventDefault();
    to.focus();
    to.select();
  });
  table.addEventListener("paste", (e) => {
    const here = at(e);
    const text = e.clipboardData?.getData("text") ?? "";
    if (!here || !/[\t\n]/.test(text.trim())) return;
    e.preventDefault();
    text.replace(/\r/g, "").replace(/\n$/, "").split("\n").forEach((line, dc) => line.split("\t").forEach((v, dp) => {
      const f = field(here[0] + dp, here[1] + dc);
      if (f) f.value = v.trim();
    }));
  });
})();
