// <np-picture><svg><image href><g data-mark="N" transform="translate(x y) scale(s)"><circle>…</g></svg></np-picture>:
// marks that are dragged, or moved by the arrows, over a picture take the color under them. What shows that color
// ([data-shows="N"]) and what sends it ([data-color="N"]) follow.

const MOVES = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] };

export class NpPicture extends HTMLElement {
  #held = null;
  #pixels = null;

  connectedCallback() {
    for (const [name, handler] of this.#handlers) this.addEventListener(name, handler);
  }

  disconnectedCallback() {
    for (const [name, handler] of this.#handlers) this.removeEventListener(name, handler);
  }

  get #svg() {
    return this.querySelector("svg");
  }

  #onDown = (event) => {
    this.#held = event.target.closest("[data-mark]");
    if (!this.#held) return;
    event.preventDefault();
    this.setPointerCapture(event.pointerId);
  };

  #onMove = (event) => {
    if (!this.#held) return;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.#svg.getScreenCTM().inverse());
    this.#put(this.#held, point.x, point.y);
  };

  #onUp = () => {
    this.#held = null;
  };

  #onKey = (event) => {
    const mark = event.target.closest("[data-mark]");
    const move = mark && MOVES[event.key];
    if (!move) return;
    event.preventDefault();
    const by = event.shiftKey ? 10 : 2;
    const { e, f } = mark.transform.baseVal.getItem(0).matrix;
    this.#put(mark, e + move[0] * by, f + move[1] * by);
  };

  #handlers = [
    ["pointerdown", this.#onDown],
    ["pointermove", this.#onMove],
    ["pointerup", this.#onUp],
    ["pointercancel", this.#onUp],
    ["keydown", this.#onKey],
  ];

  /** The picture as pixels, read once. */
  get #canvas() {
    if (this.#pixels) return this.#pixels;
    const image = this.querySelector("image");
    const { width, height } = this.#svg.viewBox.baseVal;
    const canvas = new OffscreenCanvas(width, height);
    this.#pixels = canvas.getContext("2d", { willReadFrequently: true });
    const source = new Image();
    source.onload = () => this.#pixels.drawImage(source, 0, 0, width, height);
    source.src = image.href.baseVal;
    return this.#pixels;
  }

  #put(mark, wantedX, wantedY) {
    const { width, height } = this.#svg.viewBox.baseVal;
    const x = Math.min(Math.max(wantedX, 0), width - 1);
    const y = Math.min(Math.max(wantedY, 0), height - 1);
    mark.transform.baseVal.getItem(0).setTranslate(x, y);
    const [red, green, blue, alpha] = this.#canvas.getImageData(Math.round(x), Math.round(y), 1, 1).data;
    if (!alpha) return;
    const hex = `#${[red, green, blue].map((byte) => byte.toString(16).padStart(2, "0")).join("")}`;
    const { mark: number } = mark.dataset;
    mark.querySelector("circle").setAttribute("fill", hex);
    for (const shown of document.querySelectorAll(`[data-shows="${number}"]`)) shown.setAttribute("fill", hex);
    for (const field of document.querySelectorAll(`[data-color="${number}"]`)) field.value = hex;
  }
}

customElements.define("np-picture", NpPicture);
