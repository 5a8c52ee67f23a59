// <np-plot data-top data-hue data-gamut data-numbers="…"><svg>… g.point[data-token] …</svg>
// <p class="numbers"></p><form hidden>…</form></np-plot>
// A point is dragged, or moved with the arrow keys (Shift: further); the browser paints it, the
// server says its numbers about ten times a second. Letting go or Enter stores, Escape puts it back.

const PACE = 100,
  STEP = 0.004,
  FAR = 5;

export class NpPlot extends HTMLElement {
  #moving = null;
  #asked = 0;
  #timer = 0;
  #request = null;

  connectedCallback() {
    this.svg = this.querySelector("svg");
    this.addEventListener("pointerdown", this.#onDown);
    this.addEventListener("pointermove", this.#onMove);
    this.addEventListener("pointerup", this.#onUp);
    this.addEventListener("pointercancel", this.#onCancel);
    this.addEventListener("keydown", this.#onKey);
  }

  disconnectedCallback() {
    this.removeEventListener("pointerdown", this.#onDown);
    this.removeEventListener("pointermove", this.#onMove);
    this.removeEventListener("pointerup", this.#onUp);
    this.removeEventListener("pointercancel", this.#onCancel);
    this.removeEventListener("keydown", this.#onKey);
    clearTimeout(this.#timer);
    this.#request?.abort();
  }

  #start(point) {
    const { lightness, chroma, hue } = point.dataset;
    if (this.#moving?.point === point) return;
    if (this.#moving) this.#back();
    this.#moving = { point, lightness: +lightness, chroma: +chroma, hue: +hue, moved: false };
  }

  #onDown = (event) => {
    const point = event.target.closest?.(".point[tabindex]");
    if (!point || event.button !== 0) return;
    event.preventDefault();
    point.focus();
    this.#start(point);
    this.setPointerCapture(event.pointerId);
  };

  #onMove = (event) => {
    if (!this.#moving || !this.hasPointerCapture(event.pointerId)) return;
    const place = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.svg.getScreenCTM().inverse());
    this.#to(place.x / +this.dataset.width, (1 - place.y / +this.dataset.height) * +this.dataset.top);
  };

  #onUp = (event) => {
    if (!this.#moving || !this.hasPointerCapture(event.pointerId)) return;
    this.releasePointerCapture(event.pointerId);
    if (this.#moving.moved) this.#store();
    else this.#moving = null;
  };

  #onCancel = () => this.#back();

  #onKey = (event) => {
    const point = event.target.closest?.(".point[tabindex]");
    if (!point || event.ctrlKey || event.metaKey || event.altKey) return;
    const [right, up] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key] ?? [
      0, 0,
    ];
    if (right || up) {
      this.#start(point);
      const by = STEP * (event.shiftKey ? FAR : 1);
      this.#to(this.#moving.lightness + right * by, this.#moving.chroma + (up * by) / 2);
    } else if (event.key === "Enter" && this.#moving?.moved) this.#store();
    else if (event.key === "Escape" && this.#moving?.moved) this.#back();
    else return;
    event.preventDefault();
  };

  #to(lightness, chroma) {
    const at = this.#moving;
    at.lightness = Math.min(Math.max(lightness, 0), 1);
    at.chroma = Math.min(Math.max(chroma, 0), 0.5);
    at.moved = true;
    this.#paint(at.lightness, at.chroma);
    clearTimeout(this.#timer);
    const wait = Math.max(PACE - (performance.now() - this.#asked), 0);
    this.#timer = setTimeout(() => this.#ask(), wait);
  }

  #paint(lightness, chroma) {
    const { point, hue } = this.#moving;
    const x = lightness * +this.dataset.width,
      y = +this.dataset.height - (chroma / +this.dataset.top) * +this.dataset.height;
    point.setAttribute("transform", `translate(${x} ${y})`);
    point.querySelector("rect").style.fill = `oklch(${lightness} ${chroma} ${hue})`;
    point.setAttribute("aria-valuenow", lightness.toFixed(3));
    const swatch = document.getElementById(`swatch-${point.dataset.token}`)?.querySelector("rect");
    if (swatch) swatch.style.fill = `oklch(${lightness} ${chroma} ${hue})`;
  }

  async #ask() {
    this.#asked = performance.now();
    this.#request?.abort();
    this.#request = new AbortController();
    const { lightness, chroma, hue } = this.#moving ?? {};
    if (lightness === undefined) return;
    const query = new URLSearchParams({ lightness, chroma, hue, gamut: this.dataset.gamut });
    try {
      const answer = await fetch(`${this.dataset.numbers}?${query}`, { signal: this.#request.signal });
      const said = await answer.json();
      if (this.#moving) this.#say(said);
    } catch (error) {
      if (error.name !== "AbortError") this.querySelector(".numbers").textContent = "The server does not answer.";
    }
  }

  #say(said) {
    const outside = said.in_srgb ? "" : said.in_p3 ? ", outside sRGB" : ", outside Display P3";
    const words = said.problem ?? `${said.hex}, ${said.on_white} on white, ${said.on_black} on black${outside}`;
    this.querySelector(".numbers").textContent = words;
    this.#moving.point.setAttribute("aria-valuetext", words);
  }

  #store() {
    const { point, lightness, chroma, hue } = this.#moving;
    const form = this.querySelector("form");
    form.dataset.back = point.id;
    form.elements.token.value = point.dataset.token;
    form.elements.lightness.value = lightness.toFixed(4);
    form.elements.chroma.value = chroma.toFixed(4);
    form.elements.hue.value = hue;
    this.#moving = null;
    form.requestSubmit();
  }

  #back() {
    if (!this.#moving) return;
    const { point } = this.#moving;
    this.#paint(+point.dataset.lightness, +point.dataset.chroma);
    point.querySelector("rect").style.fill = "";
    const swatch = document.getElementById(`swatch-${point.dataset.token}`)?.querySelector("rect");
    if (swatch) swatch.style.fill = "";
    this.#moving = null;
    clearTimeout(this.#timer);
  }
}

customElements.define("np-plot", NpPlot);
