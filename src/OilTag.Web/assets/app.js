// Makes the pages quicker where scripts run. Every page works without this file.
(() => {
  "use strict";
  const root = document.documentElement;
  root.classList.add("js");

  const jump = () => document.getElementById("jump");
  const inField = (e) => e.target instanceof Element && e.target.closest("input, textarea, select, [contenteditable]");

  // A digit or / outside a field goes to the jump box; g and a letter goes to an area.
  let go = false;
  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    if (e.key === "Escape" && inField(e)) { e.target.blur(); return; }
    if (inField(e)) return;
    if (e.key === "/" || (e.key >= "0" && e.key <= "9")) {
      const box = jump();
      if (!box) return;
      e.preventDefault();
      box.focus();
      box.value = e.key === "/" ? "" : e.key;
      return;
    }
    const areas = { t: "/today", m: "/", s: "/strip", v: "/survey", w: "/work", k: "/make", p: "/plan", e: "/people", l: "/log" };
    if (go && areas[e.key]) { go = false; location.assign(areas[e.key]); return; }
    go = e.key === "g";
    const step = e.key === "[" ? "prev" : e.key === "]" ? "next" : "";
    if (step) document.querySelector(`a[rel=${step}]`)?.click();
    if (e.key === "n" && !go) document.querySelector("[data-hotkey=n]")?.click();
    if (e.key === "f" && !go) document.querySelector("[data-hotkey=f]")?.click();
    if (e.key === "h" && !go) location.assign("/today/hours");
    if (e.key === "j" || e.key === "k") walk(e.key === "j" ? 1 : -1);
    if (e.key === "?") location.assign("/keys");
  });

  // j and k walk through the rows of a list; Enter opens the one that has the focus.
  const walk = (step) => {
    const links = [...document.querySelectorAll("table[data-walk] tbody a.link")];
    if (links.length === 0) return;
    const at = links.indexOf(document.activeElement);
    links[Math.min(links.length - 1, Math.max(0, at < 0 ? (step > 0 ? 0 : links.length - 1) : at + step))].focus();
  };

  // Quick keys fill the field above them. What somebody typed there stays; another quick word is changed for this one.
  document.addEventListener("click", (e) => {
    const key = e.target instanceof Element && e.target.closest("button[data-fill]");
    if (!key) return;
    const field = key.closest(".fl")?.querySelector("input, textarea");
    if (!field) return;
    const typed = field.value.trim();
    const quick = [...key.parentElement.querySelectorAll("[data-fill]")].some((k) => k.dataset.fill === typed);
    const words = !["numeric", "decimal"].includes(field.inputMode);
    field.value = typed && words && !quick ? `${typed}, ${key.dataset.fill}` : key.dataset.fill;
    field.dispatchEvent(new Event("input", { bubbles: true }));
  });

  // An answer that broke leaves the page as it is; the sentence stands on top of it, with a key that sends the form again.
  const trouble = (words, form, key) => {
    document.getElementById("trouble")?.remove();
    if (!words) return;
    const box = document.createElement("div");
    box.id = "trouble";
    box.className = "err";
    box.setAttribute("role", "alert");
    box.append(words);
    if (form instanceof HTMLFormElement) {
      const again = document.createElement("button");
      again.type = "button";
      again.className = "act small";
      again.textContent = "Send it again";
      again.addEventListener("click", () => form.requestSubmit(key));
      box.append(" ", again);
    }
    document.getElementById("sheet")?.prepend(box);
  };
  document.addEventListener("htmx:response:error", (e) => {
    const ctx = e.detail.ctx;
    if (ctx.response.status < 500) return;
    const part = new DOMParser().parseFromString(ctx.text, "text/html").querySelector("[role=alert]");
    trouble(part ? part.textContent : "The answer was not whole. Try again in a moment.", ctx.sourceElement, ctx.sourceEvent?.submitter);
  });
  document.addEventListener("htmx:error", (e) => {
    const ctx = e.detail.ctx;
    if (ctx) trouble("The shed’s machine does not answer. What you typed is still here; try again in a moment.", ctx.sourceElement, ctx.sourceEvent?.submitter);
  });
  document.addEventListener("htmx:after:request", (e) => {
    if (e.detail.ctx.response.status < 500) trouble("");
  });

  document.addEventListener("click", (e) => { if (e.target instanceof Element && e.target.closest("[data-print]")) window.print(); });

  // A page that was asked for to be printed prints itself.
  if (document.querySelector("[data-autoprint]")) window.addEventListener("load", () => window.print());

  // What was chosen and not checked yet is not what would be recorded: the keys that record wait for the check.
  document.querySelectorAll("form[data-check]").forEach((form) => form.addEventListener("change", () =>
    document.querySelectorAll(form.dataset.check).forEach((key) => {
      key.disabled = true;
      key.textContent = "Check what you chose first";
    })));

  // A form is sent once: the pressed button says so until the answer comes.
  document.addEventListener("submit", (e) => {
    const form = e.target;
    if (!(form instanceof HTMLFormElement) || form.method !== "post" || form.hasAttribute("hx-post")) return;
    if (form.dataset.sent) { e.preventDefault(); return; }
    form.dataset.sent = "1";
    const button = e.submitter;
    if (button && button.classList.contains("act")) { button.setAttribute("aria-busy", "true"); button.dataset.words = button.textContent; button.textContent = "Saving…"; }
  });
  window.addEventListener("pageshow", () => document.querySelectorAll("form[data-sent]").forEach((f) => {
    delete f.dataset.sent;
    f.querySelectorAll("[aria-busy]").forEach((b) => { b.removeAttribute("aria-busy"); if (b.dataset.words) b.textContent = b.dataset.words; });
  }));

  // A wide drawing is shown where the chosen block is.
  const chosen = document.querySelector(".drawing [data-chosen]");
  const pane = chosen?.closest(".drawing");
  if (pane) {
    const [block, frame] = [chosen.getBoundingClientRect(), pane.getBoundingClientRect()];
    if (block.right > frame.right || block.left < frame.left) pane.scrollLeft += block.left + block.width / 2 - frame.left - frame.width / 2;
  }

  // On the shed's tablet a PIN is typed on large keys.
  document.querySelectorAll("[data-pin]").forEach((field) => {
    const keys = field.parentElement?.querySelector(".pinkeys");
    if (!keys) return;
    keys.hidden = false;
    keys.addEventListener("click", (e) => {
      const key = e.target.closest("button");
      if (!key) return;
      if (key.dataset.digit) field.value = (field.value + key.dataset.digit).slice(0, field.maxLength);
      else field.value = field.value.slice(0, -1);
    });
  });

  // The one field of a page that is typed again and again is ready for a keyboard; a phone shows its drawing first.
  if (matchMedia("(pointer: fine)").matches) document.querySelector("[data-focus]")?.focus({ preventScroll: true });

  // The first field with a problem gets the focus.
  document.querySelector(".fl.bad input, .fl.bad textarea, .fl.bad select")?.focus();
})();
