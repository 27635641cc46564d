// Draws a solid that can be turned by finger, mouse or the keys below it.
import { BufferAttribute, BufferGeometry, Color, DirectionalLight, DoubleSide, HemisphereLight, Mesh, MeshLambertMaterial, OrthographicCamera, Scene, Vector3, WebGLRenderer } from "three";

export const show = (box, made, label) => {
  // What is drawn stays there, so that the picture can be saved from the browser.
  const renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
  const wide = box.querySelector("figcaption").clientWidth, tall = Math.min(360, wide);
  renderer.setPixelRatio(Math.min(2, window.devicePixelRatio || 1));
  renderer.setSize(wide, tall, false);
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(made.corners, 3));
  geometry.setAttribute("normal", new BufferAttribute(made.normals, 3));
  geometry.computeBoundingSphere();
  const { center, radius } = geometry.boundingSphere;
  geometry.translate(-center.x, -center.y, -center.z);
  const style = getComputedStyle(document.documentElement);
  const colour = (name, other) => new Color(style.getPropertyValue(name).trim() || other);
  const scene = new Scene();
  scene.background = colour("--color-paper", "#fff");
  scene.add(new Mesh(geometry, new MeshLambertMaterial({ color: colour("--color-graph", "#999"), side: DoubleSide })), new HemisphereLight(0xffffff, 0x555555, 2.2));
  const light = new DirectionalLight(0xffffff, 1.6);
  scene.add(light);
  const r = Math.max(radius, 1e-9) * 1.08, ratio = wide / tall;
  const camera = new OrthographicCamera(-r * ratio, r * ratio, r, -r, r * 0.01, r * 10);
  camera.up.set(0, 0, 1);

  let [turn, tip] = [-0.7, 0.5];
  const draw = () => {
    camera.position.copy(new Vector3(Math.cos(tip) * Math.cos(turn), Math.cos(tip) * Math.sin(turn), Math.sin(tip)).multiplyScalar(r * 4));
    camera.lookAt(0, 0, 0);
    light.position.copy(camera.position);
    renderer.render(scene, camera);
  };
  const move = (sideways, upwards) => {
    turn += sideways;
    tip = Math.max(-1.55, Math.min(1.55, tip + upwards));
    draw();
  };

  const canvas = renderer.domElement;
  canvas.setAttribute("role", "img");
  canvas.setAttribute("aria-label", label);
  canvas.addEventListener("pointerdown", (e) => canvas.setPointerCapture(e.pointerId));
  canvas.addEventListener("pointermove", (e) => canvas.hasPointerCapture(e.pointerId) && move(-e.movementX * 0.01, e.movementY * 0.01));
  const keys = document.createElement("div");
  keys.className = "keys";
  [["Turn left", 0.4, 0], ["Turn right", -0.4, 0], ["Tip up", 0, 0.4], ["Tip down", 0, -0.4]].forEach(([words, sideways, upwards]) => {
    const key = document.createElement("button");
    key.type = "button";
    key.className = "act small second";
    key.textContent = words;
    key.addEventListener("click", () => move(sideways, upwards));
    keys.append(key);
  });
  box.querySelector("figcaption").before(canvas, keys);
  draw();
};
