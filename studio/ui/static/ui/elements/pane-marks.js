// What attributes say of the elements of a scene: which are zones, which are in a state, which take a slot.

/** Whether an element takes one of some slots. */
export function takes(element, slots) {
  return Object.entries(element.dataset).some(
    ([name, value]) => slots.has(name === "copy" ? `copy-${value}` : value) && name !== "part" && name !== "as",
  );
}

/** Let the elements at some places be zones: pairs of a place and its attributes; ``page`` are those of the page. */
export function markZones(elements, pairs, page) {
  const zones = new Map(pairs);
  for (const [place, element] of elements.entries()) {
    const attributes = zones.get(place);
    if (!attributes && !element.hasAttribute("data-own")) continue;
    for (const name of Object.keys(page)) {
      if (attributes) element.setAttribute(name, attributes[name]);
      else element.removeAttribute(name);
    }
    // A zone without an ink of its own takes the one around it again, as the server says.
    if (attributes?.["data-ink"]) {
      element.setAttribute("data-ink", attributes["data-ink"]);
      element.setAttribute("data-inked", "");
    } else if (element.hasAttribute("data-inked")) {
      element.removeAttribute("data-ink");
      element.removeAttribute("data-inked");
    }
    element.toggleAttribute("data-zone", Boolean(attributes));
    element.toggleAttribute("data-own", Boolean(attributes));
  }
}

/** Let all parts that have a state of this name be in it. */
export function markState(scene, state) {
  for (const element of scene.querySelectorAll("[data-set]")) {
    element.removeAttribute("data-as");
    element.removeAttribute("data-set");
  }
  if (!state) return;
  const having = ["ink", "fill", "edge"].map((paint) => `[data-${state}-${paint}]:not([data-as])`);
  for (const element of scene.querySelectorAll(having.join())) {
    element.setAttribute("data-as", state);
    element.setAttribute("data-set", "");
  }
}
