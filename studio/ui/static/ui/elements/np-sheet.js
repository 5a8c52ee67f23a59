// <np-sheet><np-grid>… a.cell[data-token][data-mode][data-value] … input.pick …</np-grid></np-sheet>
// Ranges over the sheet and what is done with them. Needs beside it the form #bulk with hidden
// tokens, modes and a data-paste address. Shift with arrows or a click extends a range; Space picks
// rows; Ctrl C, X, V, D copy, cut, paste, fill down, with Shift along the ramp; Delete clears; typing
// opens the cell.

export class NpSheet extends HTMLElement {
  #anchor = null;
  #range = [];
  #shift = false;
  #whole = Promise.resolve(true);

  connectedCallback() {
    this.addEventListener("keydown", this.#onKey, true);
    this.addEventListener("pointerdown", this.#onDown, true);
    this.addEventListener("click", this.#onClick, true);
    this.addEventListener("focusin", this.#onFocus);
    this.addEventListener("change", this.#count);
    for (const name of ["copy", "cut", "paste"]) document.addEventListener(name, this.#onClipboard);
    document.getElementById("unpick")?.addEventListener("click", this.#unpick);
    this.#count();
  }

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey, true);
    this.removeEventListener("pointerdown", this.#onDown, true);
    this.removeEventListener("click", this.#onClick, true);
    this.removeEventListener("focusin", this.#onFocus);
    this.removeEventListener("change", this.#count);
    for (const name of ["copy", "cut", "paste"]) document.removeEventListener(name, this.#onClipboard);
  }

  get grid() {
    return [...this.querySelectorAll("tr")].map((row) => [...row.querySelectorAll("a.cell")]).filter((row) => row.length);
  }

  #onFocus = (event) => {
    if (!event.target.matches("a.cell")) return;
    if (this.#shift && this.#anchor) this.#extend(event.target);
    else this.#start(event.target);
  };

  #start(cell) {
    for (const one of this.#range) one.classList.remove("in-range");
    this.#anchor = cell;
    this.#range = [cell];
    this.#whole = Promise.resolve(true);
  }

  #extend(cell) {
    const [later, anchor] = [this.closest("np-later"), this.#anchor];
    this.#whole = later?.between(anchor, cell) ?? this.#whole;
    this.#whole.then(() => this.#anchor === anchor && this.#mark(cell));
  }

  #mark(cell) {
    const grid = this.grid;
    const where = (one) => grid.flatMap((row, y) => (row.includes(one) ? [[y, row.indexOf(one)]] : []))[0];
    const [from, to] = [where(this.#anchor), where(cell)];
    if (!from || !to) return;
    for (const one of this.#range) one.classList.remove("in-range");
    const [top, bottom] = [from[0], to[0]].sort((a, b) => a - b);
    const [left, right] = [from[1], to[1]].sort((a, b) => a - b);
    this.#range = grid.slice(top, bottom + 1).flatMap((row) => row.slice(left, right + 1));
    for (const one of this.#range) one.classList.add("in-range");
  }

  #onDown = (event) => {
    this.#shift = event.shiftKey; // the press focuses the cell, and so starts or extends the range
  };

  #onClick = (event) => {
    if (!event.shiftKey || !event.target.closest("a.cell")) return;
    event.preventDefault();
    event.stopPropagation();
  };

  #onKey = (event) => {
    if (!event.target.matches?.("a.cell")) return;
    this.#shift = event.shiftKey && event.key.startsWith("Arrow");
    const control = event.ctrlKey || event.metaKey;
    if (event.key === " ") this.#pick();
    else if (event.key === "Delete" || event.key === "Backspace") this.#submit({ act: "clear" });
    else if (control && event.key.toLowerCase() === "d") this.#submit({ act: event.shiftKey ? "fill-along" : "fill" });
    else if (!control && !event.altKey && event.key.length === 1) this.#type(event.target, event.key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  #type(cell, key) {
    const region = this.closest("np-region");
    cell.click();
    region?.idle.then(() => {
      const field = document.getElementById("value");
      if (!field) return;
      field.value = key;
      field.dispatchEvent(new Event("input", { bubbles: true }));
    });
  }

  #pick() {
    const rows = [...new Set(this.#range.map((cell) => cell.closest("tr")))];
    const boxes = rows.map((row) => row.querySelector("input.pick"));
    const on = boxes.some((box) => !box.checked);
    for (const box of boxes) box.checked = on;
    const modes = new Set(this.#range.map((cell) => cell.dataset.mode));
    for (const box of document.querySelectorAll("#bulk input[name=mode]")) box.checked = modes.has(box.value);
    this.#count();
  }

  #unpick = () => {
    for (const box of this.querySelectorAll("input.pick")) box.checked = false;
    this.#count();
  };

  #count = () => {
    const form = document.getElementById("bulk");
    if (!form) return;
    const count = this.querySelectorAll("input.pick:checked").length;
    form.hidden = count === 0;
    form.querySelector("#picked").textContent = `${count} picked`;
  };

  #onClipboard = (event) => {
    if (!this.#range.length || !this.contains(document.activeElement)) return;
    event.preventDefault();
    if (event.type === "paste") this.#paste(event.clipboardData.getData("text/plain"));
    else {
      const rows = Map.groupBy(this.#range, (cell) => cell.closest("tr"));
      const text = [...rows.values()].map((row) => row.map((cell) => cell.dataset.value).join("\t")).join("\n");
      event.clipboardData.setData("text/plain", text);
      if (event.type === "cut") this.#submit({ act: "clear" });
    }
  };

  async #paste(text) {
    const lines = text.replace(/\n$/, "").split("\n");
    if (this.#range.length === 1) {
      const later = this.closest("np-later");
      this.#whole = later?.behind(this.#anchor, lines.length - 1) ?? this.#whole;
      await this.#whole;
      const grid = this.grid;
      const y = grid.findIndex((row) => row.includes(this.#anchor));
      const x = grid[y].indexOf(this.#anchor);
      const wide = Math.max(...lines.map((line) => line.split("\t").length));
      this.#range = grid.slice(y, y + lines.length).flatMap((row) => row.slice(x, x + wide));
    }
    this.#submit({ text }, document.getElementById("bulk")?.dataset.paste);
  }

  async #submit(fields, action) {
    const form = document.getElementById("bulk");
    if (!form) return;
    const region = this.closest("np-region");
    if (!(await this.#whole)) {
      region.say("Some rows of the range did not come. Nothing was stored; try again.");
      return;
    }
    const data = new FormData(form);
    data.set("tokens", JSON.stringify([...new Set(this.#range.map((cell) => cell.dataset.token))]));
    data.set("modes", JSON.stringify([...new Set(this.#range.map((cell) => cell.dataset.mode))].filter(Boolean)));
    for (const [name, value] of Object.entries(fields)) data.set(name, value);
    region.load(action ?? form.action, { body: data, focus: this.#anchor.id });
  }
}

customElements.define("np-sheet", NpSheet);
