/** The rows of a sheet that are selected by the boxes before their names, and the form for them. */
export class RowPicks {
  #sheet;
  #last = null;
  #shift = false;

  constructor(sheet) {
    this.#sheet = sheet;
  }

  start() {
    this.#sheet.addEventListener("click", this.#onClick, true);
    this.#sheet.addEventListener("change", this.#onChange);
    document.getElementById("unpick")?.addEventListener("click", this.#clear);
    this.#count();
  }

  stop() {
    this.#sheet.removeEventListener("click", this.#onClick, true);
    this.#sheet.removeEventListener("change", this.#onChange);
    document.getElementById("unpick")?.removeEventListener("click", this.#clear);
  }

  get #boxes() {
    return [...this.#sheet.querySelectorAll("input.pick")];
  }

  /** Select the rows of `cells`, or no longer; with `further` all from the row selected last. */
  toggle(cells, further) {
    const rows = [...new Set(cells.map((cell) => cell.closest("tr")))];
    const boxes = rows.map((row) => row.querySelector("input.pick"));
    if (further && this.#last?.isConnected) this.#reach(boxes.at(-1));
    else {
      const on = boxes.some((box) => !box.checked);
      for (const box of boxes) box.checked = on;
    }
    this.#last = boxes.at(-1);
    const modes = new Set(cells.map((cell) => cell.dataset.mode));
    for (const box of document.querySelectorAll("#bulk input[name=mode]")) box.checked = modes.has(box.value);
    this.#count();
  }

  /** Let every row between the one selected last and `box` be as that one is. */
  async #reach(box) {
    const last = this.#last;
    const [from, to] = [last, box].map((one) => one.closest("tr").querySelector("a.cell"));
    await this.#sheet.closest("np-later")?.between(from, to);
    const boxes = this.#boxes;
    const [first, end] = [boxes.indexOf(last), boxes.indexOf(box)].sort((a, b) => a - b);
    for (const one of boxes.slice(first, end + 1)) one.checked = last.checked;
    this.#count();
  }

  #onClick = (event) => {
    if (event.target.matches("input.pick")) this.#shift = event.shiftKey;
  };

  #onChange = (event) => {
    if (!event.target.matches("input.pick")) return;
    if (this.#shift && this.#last?.isConnected) this.#reach(event.target);
    this.#last = event.target;
    this.#count();
  };

  #clear = () => {
    for (const box of this.#boxes) box.checked = false;
    this.#count();
  };

  #count() {
    const form = document.getElementById("bulk");
    if (!form) return;
    const count = this.#boxes.filter((box) => box.checked).length;
    form.hidden = count === 0;
    form.querySelector("#picked").textContent = `${count} selected`;
  }
}
