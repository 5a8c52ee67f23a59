// A token that is dropped on a scene: told to the page around it, with the slots of the part it was dropped on.

export const TOKEN = "text/x-token";
const PAINTS = ["fill", "ink", "edge", "round", "pad", "gap", "size", "lift"];

/** Take tokens in on a scene; ``stage`` is told, and elements that take slots fit ``selector``. */
export function takeTokens(scene, stage, selector) {
  scene.addEventListener("dragover", (event) => {
    if (event.dataTransfer.types.includes(TOKEN)) event.preventDefault();
  });
  scene.addEventListener("drop", (event) => {
    const token = event.dataTransfer.getData(TOKEN);
    const part = event.target.closest(selector);
    if (!token || !part) return;
    event.preventDefault();
    const slots = PAINTS.map((paint) => part.dataset[paint]).filter(Boolean);
    stage.dispatchEvent(new CustomEvent("np-stage-drop", { bubbles: true, detail: { token, slots } }));
  });
}
