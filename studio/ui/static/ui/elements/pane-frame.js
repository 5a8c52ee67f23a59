// One frame of the stage: its theme, zones, state, what is lit up and pointed at, its size, and its events.

import { takeTokens } from "./pane-drop.js";
import { markState, markZones, takes } from "./pane-marks.js";
import { Moves } from "./pane-moves.js";
import { selfContained } from "./scene-file.js";
import { pictureOf } from "./scene-picture.js";

const WIDTHS = { phone: 390, tablet: 768, desktop: 1120 };

export class PaneFrame {
  place = 0;
  #iframe;
  #stage;
  #document = null;
  /** The elements that take slots, in the order in which the server counts them, wherever they are moved. */
  #elements = [];
  #moves = new Moves();
  #quiet = 0;

  constructor(iframe, stage) {
    this.#iframe = iframe;
    this.#stage = stage;
    iframe.addEventListener("load", this.#onLoad);
    if (iframe.contentDocument?.readyState === "complete") this.#onLoad();
  }

  stop() {
    this.#iframe.removeEventListener("load", this.#onLoad);
    this.#unlisten();
  }

  get #pane() {
    return this.#iframe.closest(".pane");
  }

  #onLoad = () => {
    const loaded = this.#iframe.contentDocument;
    if (!loaded?.body || loaded.URL === "about:blank") return;
    this.#unlisten();
    this.#document = loaded;
    this.#elements = [...loaded.querySelectorAll(this.#stage.dataset.selector)];
    this.#moves = new Moves();
    loaded.addEventListener("click", this.#onClick);
    loaded.addEventListener("pointerover", this.#onOver);
    takeTokens(loaded, this.#stage, this.#stage.dataset.selector);
    loaded.addEventListener("scroll", this.#onScroll, { passive: true });
    this.paint();
    this.fit();
  };

  #unlisten() {
    this.#document?.removeEventListener("click", this.#onClick);
    this.#document?.removeEventListener("pointerover", this.#onOver);
    this.#document?.removeEventListener("scroll", this.#onScroll);
  }

  /** Everything that attributes say: theme, zones, state, what is lit up, what is pointed at. */
  paint() {
    const { dataset } = this.#stage;
    if (!this.#document || !this.#pane) return;
    const root = this.#document.documentElement;
    for (const [name, value] of Object.entries(JSON.parse(this.#pane.dataset.attributes)))
      root.setAttribute(name, value);
    const elements = this.#elements;
    this.#moves.apply(elements, JSON.parse(dataset.moves || "[]"));
    markZones(elements, JSON.parse(this.#pane.dataset.zones), JSON.parse(this.#pane.dataset.attributes));
    const lit = new Set(dataset.lit.split(" ").filter(Boolean));
    for (const [place, element] of elements.entries()) {
      element.toggleAttribute("data-lit", lit.size > 0 && takes(element, lit));
      element.toggleAttribute("data-at", String(place) === dataset.at && String(this.place) === (dataset.pane || "0"));
    }
    markState(this.#document, dataset.state);
  }

  /** Put the page, and the zones that inherit it, into a mode, where the pane does not keep one of its own. */
  set(attribute, mode) {
    if (!this.#document || this.#pane.dataset.fixed.split(" ").includes(attribute)) return;
    const root = this.#document.documentElement;
    const before = root.getAttribute(attribute);
    root.setAttribute(attribute, mode);
    for (const zone of this.#document.querySelectorAll("[data-zone]"))
      if (zone.getAttribute(attribute) === before) zone.setAttribute(attribute, mode);
  }

  /** Show the scene as wide as the pane asks for, scaled where that is wider than the pane. */
  fit() {
    const box = this.#iframe.parentElement;
    const { width, zoom } = this.#pane.dataset;
    const scale = +zoom / 100;
    const wanted = WIDTHS[width] ?? box.clientWidth / scale;
    const fits = Math.min(scale, box.clientWidth / wanted);
    const small = this.#stage.dataset.view === "grid" && !WIDTHS[width];
    const ratio = small ? box.clientWidth / WIDTHS.tablet : fits;
    const style = this.#iframe.style;
    style.width = `${small ? WIDTHS.tablet : wanted}px`;
    style.height = `${box.clientHeight / ratio}px`;
    style.transform = ratio === 1 ? "" : `scale(${ratio})`;
    style.marginLeft = `${Math.max((box.clientWidth - parseFloat(style.width) * ratio) / 2, 0)}px`;
  }

  get share() {
    const { scrollTop, scrollHeight, clientHeight } = this.#document.scrollingElement;
    return scrollTop / Math.max(scrollHeight - clientHeight, 1);
  }

  scrollTo(share) {
    const scroller = this.#document?.scrollingElement;
    if (!scroller) return;
    this.#quiet = performance.now();
    scroller.scrollTop = share * (scroller.scrollHeight - scroller.clientHeight);
  }

  #onScroll = () => {
    if (performance.now() - this.#quiet > 120) this.#stage.scrolled(this);
  };

  #onClick = (event) => {
    event.preventDefault();
    const element = event.target.closest(this.#stage.dataset.selector);
    const place = this.#elements.indexOf(element);
    if (place >= 0) this.#stage.point(place, this.place);
  };

  /** Show what a click would point at. */
  #onOver = (event) => {
    const under = event.target.closest(this.#stage.dataset.selector);
    for (const element of this.#document.querySelectorAll("[data-under]")) element.removeAttribute("data-under");
    under?.setAttribute("data-under", "");
  };

  /** The font size in pixels and the weight of every element, by its place, once the frame is there. */
  async sizes() {
    if (!this.#document) await new Promise((loaded) => this.#iframe.addEventListener("load", loaded, { once: true }));
    const view = this.#document.defaultView;
    return this.#elements.map((element, place) => {
      const { fontSize, fontWeight } = view.getComputedStyle(element);
      return [place, parseFloat(fontSize).toFixed(2), Math.round(fontWeight)].join(":");
    });
  }

  /** Download the scene as one HTML file with its themes, or as a picture of it as it is now. */
  async save(kind) {
    if (!this.#document) await new Promise((loaded) => this.#iframe.addEventListener("load", loaded, { once: true }));
    const made =
      kind === "png"
        ? await pictureOf(this.#document)
        : new Blob([await selfContained(this.#document)], { type: "text/html" });
    const link = document.createElement("a");
    link.href = URL.createObjectURL(made);
    link.download = `${this.#document.title.toLowerCase()}.${kind}`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 1000);
  }
}
