// Reads the codes of tags and labels into a field: by the camera where the browser allows it, else from a photo of the code. Typing always works.
(() => {
  "use strict";
  const add = (field, text, one) => {
    if (one) { field.value = text; return true; }
    const lines = field.value.split(/\s+/).filter(Boolean);
    if (lines.includes(text)) return false;
    field.value = [...lines, text].join(" ");
    field.dispatchEvent(new Event("input", { bubbles: true }));
    return true;
  };
  const read = (source, width, height) => {
    const scale = Math.min(1, 1200 / Math.max(width, height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(width * scale);
    canvas.height = Math.round(height * scale);
    const c = canvas.getContext("2d", { willReadFrequently: true });
    c.drawImage(source, 0, 0, canvas.width, canvas.height);
    const found = window.jsQR(c.getImageData(0, 0, canvas.width, canvas.height).data, canvas.width, canvas.height);
    return found ? found.data : null;
  };

  document.querySelectorAll("[data-scan]").forEach((box) => {
    const field = document.getElementById(box.dataset.scan);
    if (!field || !window.jsQR) return;
    const say = document.createElement("p");
    say.setAttribute("role", "status");
    const keys = document.createElement("div");
    keys.className = "keys";
    const photo = document.createElement("label");
    photo.className = "photokey";
    photo.append("Photograph a code ");
    const file = document.createElement("input");
    file.type = "file";
    file.accept = "image/*";
    file.capture = "environment";
    photo.append(file);
    keys.append(photo);
    box.append(keys, say);
    file.addEventListener("change", async () => {
      const picture = file.files[0];
      file.value = "";
      if (!picture) return;
      try {
        const bitmap = await createImageBitmap(picture);
        const text = read(bitmap, bitmap.width, bitmap.height);
        say.textContent = text ? (add(field, text, "one" in box.dataset) ? `Read: ${text}` : `Read before: ${text}`) : "No code was found in that picture. Go closer, or type the number.";
      } catch {
        say.textContent = "That picture cannot be opened. Type the number.";
      }
    });

    // The live camera works only where the page came over https or from this very machine.
    if (!navigator.mediaDevices?.getUserMedia || !window.isSecureContext) return;
    const start = document.createElement("button");
    start.type = "button";
    start.textContent = "Scan with the camera";
    keys.prepend(start);
    const video = document.createElement("video");
    video.muted = true;
    video.playsInline = true;
    video.hidden = true;
    box.append(video);
    let stream = null;
    const stop = () => { stream?.getTracks().forEach((t) => t.stop()); stream = null; video.hidden = true; start.textContent = "Scan with the camera"; };
    const look = () => {
      if (!stream) return;
      if (video.readyState >= 2) {
        const text = read(video, video.videoWidth, video.videoHeight);
        if (text && add(field, text, "one" in box.dataset)) say.textContent = `Read: ${text}`;
      }
      setTimeout(look, 150);
    };
    start.addEventListener("click", async () => {
      if (stream) { stop(); return; }
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
        video.srcObject = stream;
        video.hidden = false;
        await video.play();
        start.textContent = "Stop the camera";
        look();
      } catch {
        say.textContent = "The camera cannot be used here. Photograph the code, or type the number.";
        stop();
      }
    });
    window.addEventListener("pagehide", stop);
  });
})();
