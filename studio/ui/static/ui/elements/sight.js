/** Keeps in sight what is looked at inside an element: the open cell, and the ray of its trace. */
export class Sight {
  #root;
  #sized = new ResizeObserver(() => this.#showCell()); // what opens below takes room from the rows

  constructor(root) {
    this.#root = root;
  }

  /** Show both now, and the cell again whenever its rows have another room. */
  keep() {
    this.#showCell();
    this.#sized.disconnect();
    const body = this.#cell?.closest(".body");
    if (body) this.#sized.observe(body);
    const end = this.#root.querySelector(".trace-scroll .end.hot");
    if (end) this.#uncover(end, end.closest(".trace-scroll"));
  }

  stop() {
    this.#sized.disconnect();
  }

  get #cell() {
    return this.#root.querySelector(".cell[aria-current]");
  }

  #showCell() {
    this.#cell?.scrollIntoView({ block: "nearest" });
  }

  /** Scroll a box, and nothing around it, until the whole of what lies in it is seen. */
  #uncover(part, box) {
    const [inner, outer] = [part.getBoundingClientRect(), box.getBoundingClientRect()];
    if (inner.right > outer.right) box.scrollLeft += inner.right - outer.right + 12;
    if (inner.bottom > outer.bottom) box.scrollTop += inner.bottom - outer.bottom + outer.height / 2;
  }
}
