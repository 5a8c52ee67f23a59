// A scene as one HTML file: its style sheets stand inside, its fonts are left to the system, and a row of selects at the
// top switches its themes.

/** The text of a file that shows a document as it is now. */
export async function selfContained(scene) {
  const sheets = [...scene.querySelectorAll("link[rel=stylesheet]")].filter((link) => !link.href.includes("faces"));
  const styles = await Promise.all(sheets.map(async (link) => (await fetch(link.href)).text()));
  const copy = scene.documentElement.cloneNode(true);
  for (const link of copy.querySelectorAll("link")) link.remove();
  for (const marked of copy.querySelectorAll("[data-at], [data-lit]")) {
    marked.removeAttribute("data-at");
    marked.removeAttribute("data-lit");
  }
  const style = scene.createElement("style");
  style.textContent = styles.join("\n").replaceAll("</", "<\\/");
  copy.querySelector("head").append(style);
  return `<!doctype html>\n${copy.outerHTML}\n`;
}
