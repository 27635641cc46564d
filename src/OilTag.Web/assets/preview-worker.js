// Reads a drawing (DXF) or a solid (STL) away from the page, so that a large or hostile file never stops it: the page ends this worker when it takes too long.
import { Helper, config } from "dxf";
import { STLLoader } from "three/examples/jsm/loaders/STLLoader.js";

config.verbose = false;
const LARGEST = { dxf: 8e6, stl: 20e6 };
const MOST_POINTS = 2e6;
const UNITS = { 1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m" };

const readDxf = (bytes) => {
  const helper = new Helper(new TextDecoder().decode(bytes));
  const { polylines } = helper.toPolylines();
  const lines = [];
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  let points = 0;
  polylines.forEach(({ vertices }) => {
    const flat = vertices.filter((v) => Number.isFinite(v[0]) && Number.isFinite(v[1]));
    if (flat.length < 2 || (points += flat.length) > MOST_POINTS) return;
    lines.push(Float64Array.from(flat.flatMap((v) => [v[0], v[1]])));
    flat.forEach(([x, y]) => {
      box[0] = Math.min(box[0], x); box[1] = Math.min(box[1], y);
      box[2] = Math.max(box[2], x); box[3] = Math.max(box[3], y);
    });
  });
  if (!lines.length) throw new Error("empty");
  return { lines, box, size: [box[2] - box[0], box[3] - box[1]], unit: UNITS[Number(helper.parsed.header.insUnits)] ?? "", left: points > MOST_POINTS };
};

const readStl = (bytes) => {
  const geometry = new STLLoader().parse(bytes);
  const position = geometry.getAttribute("position");
  if (!position?.count || position.array.some((v) => !Number.isFinite(v))) throw new Error("empty");
  geometry.computeBoundingBox();
  const { min, max } = geometry.boundingBox;
  return { corners: position.array, normals: geometry.getAttribute("normal").array, size: [max.x - min.x, max.y - min.y, max.z - min.z], unit: "" };
};

onmessage = async ({ data: { source, kind } }) => {
  try {
    const answer = await fetch(source, { credentials: "same-origin" });
    if (!answer.ok) throw new Error("missing");
    const bytes = await answer.arrayBuffer();
    if (bytes.byteLength > LARGEST[kind]) {
      postMessage({ why: "The file is too large to be drawn here. Open it with the link." });
      return;
    }
    postMessage({ made: kind === "dxf" ? readDxf(bytes) : readStl(bytes) });
  } catch {
    postMessage({ why: "Nothing in this file could be drawn. Open it with the link." });
  }
};
