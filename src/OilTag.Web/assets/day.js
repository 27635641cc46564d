// A lead drags a job to another person: onto their job the two change about, onto their row they get it. The pages behind "Change" do the same without.
(() => {
  "use strict";
  // The board looks every few seconds whether another tablet has changed it; never while somebody types, has something open or drags.
  let dragged = null;
  document.body.addEventListener("htmx:before:request", (e) => {
    if (!(e.target instanceof Element) || !e.target.matches("[data-live]")) return;
    const typing = document.activeElement instanceof HTMLInputElement && document.activeElement.type !== "hidden";
    if (dragged || typing || document.hidden || document.querySelector("[data-live] details[open]")) e.preventDefault();
  });
  const form = document.querySelector("form[data-drag]");
  const board = document.querySelector("[data-day]");
  if (!form || !board) return;
  board.addEventListener("dragstart", (e) => {
    dragged = e.target instanceof Element ? e.target.closest("[data-job]") : null;
    if (dragged) { e.dataTransfer.setData("text/plain", dragged.dataset.job); e.dataTransfer.effectAllowed = "move"; }
  });
  const target = (e) => {
    const row = e.target instanceof Element && dragged ? e.target.closest("[data-person]") : null;
    return row && row !== dragged.closest("[data-person]") ? row : null;
  };
  board.addEventListener("dragover", (e) => {
    const row = target(e);
    board.querySelectorAll(".over").forEach((r) => r.classList.remove("over"));
    if (row) { e.preventDefault(); row.classList.add("over"); }
  });
  board.addEventListener("drop", (e) => {
    const row = target(e);
    if (!row) return;
    e.preventDefault();
    const other = e.target.closest("[data-job][draggable=true]");
    form.elements.job.value = dragged.dataset.job;
    form.elements.to.value = row.dataset.person;
    form.elements.other.value = other ? other.dataset.job : "";
    if (other) form.action = "/today?handler=Swap";
    form.submit();
  });
  board.addEventListener("dragend", () => { dragged = null; board.querySelectorAll(".over").forEach((r) => r.classList.remove("over")); });
})();
