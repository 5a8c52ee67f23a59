// A scene as one HTML file: its style sheets and their fonts stand inside.

const ADDRESS = /url\(["']?([^"')]+)["']?\)/g;

/** The text of a style sheet with all that it names by address inside. */
async function wholeSheet(link) {
  const text = await (await fetch(link.href)).text();
  const inside = new Map();
  for (const [, address] of text.matchAll(ADDRESS)) {
    if (!address.startsWith("data:")) inside.set(address, await dataOf(new URL(address, link.href)));
  }
  return text.replace(ADDRESS, (whole, address) => (inside.has(address) ? `url("${inside.get(address)}")` : whole));
}

async function dataOf(address) {
  const reader = new FileReader();
  reader.readAsDataURL(await (await fetch(address)).blob());
  await new Promise((done) => reader.addEventListener("loadend", done, { once: true }));
  return reader.result;
}

/** A copy of the page of a scene as it is now, with its styles in it and nothing beside it. */
export async function copyOf(scene) {
  const sheets = [...scene.querySelectorAll("link[rel=stylesheet]")];
  const styles = await Promise.all(sheets.map(wholeSheet));
  const copy = scene.documentElement.cloneNode(true);
  for (const link of copy.querySelectorAll("link")) link.remove();
  for (const marked of copy.querySelectorAll("[data-at], [data-lit], [data-under]")) {
    marked.removeAttribute("data-at");
    marked.removeAttribute("data-lit");
    marked.removeAttribute("data-under");
  }
  const style = scene.createElement("style");
  style.textContent = styles.join("\n").replaceAll("</", "<\\/");
  copy.querySelector("head").append(style);
  return copy;
}

/** The text of a file that shows a document as it is now. */
export async function selfContained(scene) {
  return `<!doctype html>\n${(await copyOf(scene)).outerHTML}\n`;
}
