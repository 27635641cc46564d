// Shows what is in a drawing or a solid beside its link. Without this file the link is there all the same.
(() => {
  "use strict";
  const PATIENCE = 15000;
  const ink = (name) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  const figure = (n) => (n >= 100 ? n.toFixed(0) : n.toPrecision(3).replace(/\.?0+$/, ""));
  const sizes = ({ size, unit }) =>
    `${size.map(figure).join(" × ")} ${unit || ""}`.trim() + (unit ? " by the file." : ". The file states no unit.") + " Check one size against the part before it is used.";

  const drawLines = (box, made) => {
    const canvas = document.createElement("canvas");
    const ratio = window.devicePixelRatio || 1;
    const wide = box.querySelector("figcaption").clientWidth, margin = 12;
    const [w, h] = made.size;
    const scale = Math.min((wide - 2 * margin) / Math.max(w, h * 0.001, 1e-9), (420 - 2 * margin) / Math.max(h, w * 0.001, 1e-9));
    const tall = Math.max(60, h * scale + 2 * margin);
    [canvas.width, canvas.height] = [wide * ratio, tall * ratio];
    const c = canvas.getContext("2d");
    c.scale(ratio, ratio);
    c.strokeStyle = ink("--color-ink") || "#111";
    c.lineWidth = 1.25;
    const left = (wide - w * scale) / 2;
    made.lines.forEach((line) => {
      c.beginPath();
      for (let i = 0; i < line.length; i += 2) c.lineTo(left + (line[i] - made.box[0]) * scale, tall - margin - (line[i + 1] - made.box[1]) * scale);
      c.stroke();
    });
    return canvas;
  };

  const look = (box) => {
    const say = box.querySelector("figcaption");
    const worker = new Worker(box.dataset.worker);
    const end = (words) => {
      clearTimeout(timer);
      worker.terminate();
      say.textContent = words;
      box.dataset.done = "";
    };
    const timer = setTimeout(() => end("The file takes too long to be drawn. Open it with the link."), PATIENCE);
    worker.onerror = () => end("The file could not be drawn here. Open it with the link.");
    worker.onmessage = async ({ data: { made, why } }) => {
      if (!made) return end(why);
      let words = sizes(made) + (made.left ? " Not all of it is drawn." : "");
      if (made.lines) {
        const canvas = drawLines(box, made);
        canvas.setAttribute("role", "img");
        canvas.setAttribute("aria-label", `Drawing, ${words}`);
        say.before(canvas);
      } else {
        try {
          const { show } = await import(box.dataset.solid);
          show(box, made, `Solid, ${words}`);
        } catch {
          words += " This device cannot draw a solid.";
        }
      }
      end(words);
    };
    say.textContent = "Reading the file…";
    worker.postMessage({ source: new URL(box.dataset.source, location.href).href, kind: box.dataset.preview });
  };

  const seen = new IntersectionObserver((entries) => entries.filter((e) => e.isIntersecting).forEach((e) => {
    seen.unobserve(e.target);
    look(e.target);
  }), { rootMargin: "200px" });
  document.querySelectorAll("[data-preview]").forEach((box) => seen.observe(box));
})();
