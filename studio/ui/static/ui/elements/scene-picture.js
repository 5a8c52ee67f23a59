// A scene as a PNG picture, drawn here: its page stands inside an SVG picture that holds its styles, and a canvas draws that.

import { copyOf } from "./scene-file.js";

const SCALE = 2;
const LONGEST = 8000;

/** A PNG of a document as it is now, in its own width and whole height, at two pixels for each of CSS. */
export async function pictureOf(scene) {
  const width = scene.documentElement.clientWidth;
  const height = Math.min(scene.documentElement.scrollHeight, LONGEST / SCALE);
  const body = new XMLSerializer().serializeToString(await copyOf(scene));
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><foreignObject width="100%" height="100%">${body}</foreignObject></svg>`;
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = new OffscreenCanvas(width * SCALE, height * SCALE);
  const context = canvas.getContext("2d");
  context.fillStyle = scene.defaultView.getComputedStyle(scene.body).backgroundColor;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  return canvas.convertToBlob({ type: "image/png" });
}
