// <np-stage data-selector data-lit data-at data-pane data-state data-view data-point><div class="panes">
// section.pane[data-attributes][data-zones][data-fixed][data-width][data-zoom] > .frame > iframe …</div></np-stage>:
// scenes in frames of this origin that run no script. Puts each frame into its theme and zones by attributes alone, so
// that a mode picked on the theme bar is seen with the next picture; fits frames into their panes; lets them scroll
// together; tells what is pointed at. What anything means is asked of the server.

import { PaneFrame } from "./pane-frame.js";

export class NpStage extends HTMLElement {
  #frames = new Map();
  #sizes = null;
  /** Milliseconds from the last pick on the theme bar to the picture that showed it. */
  #time = 0;

  connectedCallback() {
    this.addEventListener("click", this.#onClick);
    this.addEventListener("input", this.#onInput);
    this.addEventListener("change", this.#onChange);
    document.addEventListener("click", this.#onMode, true);
    document.addEventListener("np-region-swapped", this.#sync);
    this.#sizes = new ResizeObserver(() => this.#fit());
    this.#sizes.observe(this);
    this.#sync();
  }

  disconnectedCallback() {
    this.removeEventListener("click", this.#onClick);
    this.removeEventListener("input", this.#onInput);
    this.removeEventListener("change", this.#onChange);
    document.removeEventListener("click", this.#onMode, true);
    document.removeEventListener("np-region-swapped", this.#sync);
    this.#sizes.disconnect();
    for (const frame of this.#frames.values()) frame.stop();
  }

  get panes() {
    return [...this.querySelectorAll(".pane")];
  }

  #sync = () => {
    const there = new Set();
    for (const [place, pane] of this.panes.entries()) {
      const iframe = pane.querySelector("iframe");
      if (!iframe) continue; // it is on its way to this pane
      there.add(iframe);
      if (!this.#frames.has(iframe)) this.#frames.set(iframe, new PaneFrame(iframe, this));
      const frame = this.#frames.get(iframe);
      frame.place = place;
      frame.paint();
    }
    if (this.#time) this.#told(this.#time);
    for (const [iframe, frame] of this.#frames) {
      if (there.has(iframe)) continue;
      frame.stop();
      this.#frames.delete(iframe);
    }
    this.#fit();
  };

  #fit() {
    for (const frame of this.#frames.values()) frame.fit();
    this.#wipe();
  }

  /** Put all frames that follow the theme bar into a mode at once, before anything is asked of the server. */
  #onMode = (event) => {
    const link = event.target.closest?.("a[data-sets]");
    if (!link || event.metaKey || event.ctrlKey || event.shiftKey || event.button) return;
    const start = performance.now();
    const [attribute, mode] = link.dataset.sets.split("=");
    for (const frame of this.#frames.values()) frame.set(attribute, mode);
    requestAnimationFrame(() => setTimeout(() => this.#told(performance.now() - start)));
  };

  #told(time) {
    this.#time = time;
    const said = document.getElementById("switched");
    if (said) said.textContent = `Switched in ${Math.round(time)} ms`;
  }

  /** Look at the element at a place of the scene. */
  point(place, pane) {
    const url = new URL(this.dataset.point || "?", location.href);
    url.searchParams.set("at", place);
    if (pane) url.searchParams.set("pane", pane);
    this.closest("np-region").load(url.href);
  }

  /** The sizes of texts in the first pane, once it is painted. */
  async sizes() {
    this.#sync();
    const frame = this.#frames.get(this.querySelector(".pane iframe"));
    return frame?.sizes();
  }

  /** Let the other frames scroll as one does. */
  scrolled(from) {
    for (const frame of this.#frames.values()) if (frame !== from) frame.scrollTo(from.share);
  }

  #onInput = (event) => {
    if (event.target.id === "wipe") this.#wipe();
  };

  #wipe() {
    const view = this.dataset.view;
    const above = this.panes[1]?.querySelector(".frame");
    if (!above) return;
    const share = view === "wipe" ? this.querySelector("#wipe").value : 50;
    above.style.clipPath = view === "wipe" || view === "halves" ? `inset(0 0 0 ${share}%)` : "";
  }

  #onChange = (event) => {
    const form = event.target.closest(".pane-form");
    if (form) this.#store(form);
  };

  #onClick = (event) => {
    const form = event.target.closest(".pane-form");
    if (!form) return;
    if (event.target.matches("[data-close]")) this.#store(form, { closes: true });
    const { save } = event.target.dataset;
    if (save) this.#frames.get(form.closest(".pane").querySelector("iframe")).save(save);
  };

  /** Write what the form of a pane says into the address of all. */
  #store(form, { closes = false } = {}) {
    const panes = form.elements.panes.value.split("|");
    const modes = [...form.querySelectorAll("[data-axis]")]
      .filter((select) => select.value)
      .map((select) => `${select.dataset.axis}:${select.value}`);
    const size = [form.querySelector("[data-width]").value, form.querySelector("[data-zoom]").value];
    panes.splice(+form.dataset.place, 1, ...(closes ? [] : [[modes.join(","), ...size].join("~")]));
    form.elements.panes.value = panes.join("|");
    form.requestSubmit();
  }
}

customElements.define("np-stage", NpStage);
