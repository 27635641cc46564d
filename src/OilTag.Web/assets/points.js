// Sets points by pressing on a pad, with the chosen photo under it; the field beside it holds them and can be typed in as well.
(() => {
  "use strict";
  document.querySelectorAll("[data-points]").forEach((pad) => {
    const field = document.getElementById(pad.dataset.points);
    if (!field) return;
    const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
    svg.setAttribute("viewBox", "0 0 100 100");
    svg.setAttribute("preserveAspectRatio", "none");
    const img = document.createElement("img");
    img.alt = "";
    img.hidden = true;
    pad.append(img, svg);
    const read = () => field.value.split("\n").map((l) => l.trim().split(/[\s,;]+/).map(Number)).filter((p) => p.length === 2 && p.every((n) => n >= 0 && n <= 100));
    const draw = () => {
      svg.replaceChildren(...read().flatMap(([x, y], i) => {
        const dot = document.createElementNS(svg.namespaceURI, "circle");
        dot.setAttribute("cx", x);
        dot.setAttribute("cy", y);
        dot.setAttribute("r", 3);
        const words = document.createElementNS(svg.namespaceURI, "text");
        words.setAttribute("x", x);
        words.setAttribute("y", y + 1.6);
        words.textContent = i + 1;
        return [dot, words];
      }));
    };
    svg.addEventListener("click", (e) => {
      const box = svg.getBoundingClientRect();
      const [x, y] = [(e.clientX - box.left) / box.width * 100, (e.clientY - box.top) / box.height * 100];
      const points = read();
      const near = points.findIndex(([a, b]) => Math.hypot(a - x, b - y) < 4);
      if (near >= 0) points.splice(near, 1);
      else points.push([x, y]);
      field.value = points.map((p) => p.map((n) => Math.round(n * 10) / 10).join(" ")).join("\n");
      const own = field.form.querySelector("input[name=Shape][value=Own]");
      if (own) own.checked = true;
      draw();
    });
    field.addEventListener("input", draw);
    const under = () => {
      const chosen = field.form.querySelector("input[name=PhotoId]:checked")?.value;
      img.hidden = !chosen;
      if (chosen) img.src = `/photos/${chosen}`;
    };
    field.form.addEventListener("change", (e) => { if (e.target.name === "PhotoId") under(); });
    under();
    draw();
  });
})();
