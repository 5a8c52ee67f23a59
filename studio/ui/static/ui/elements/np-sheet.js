// <np-sheet><np-grid>… a.cell[data-token][data-mode][data-value] … input.pick …</np-grid></np-sheet>
// Ranges over the sheet, typing into it, and what is done with both. Needs beside it the form #bulk with
// hidden tokens, modes and a data-paste address, the form #typed and the template #cell-field; without
// them the sheet is only read. Shift with arrows or a click, and dragging, extend a range; Ctrl A takes
// all; Space selects rows; Ctrl C, X, V, D copy, cut, paste, fill down, with Shift along the ramp; Delete
// clears; Insert, or Ctrl Enter, adds a token to the group by its link [data-adds]. A cell becomes a field at the first key, or at F2 with what it holds: Enter and Tab store and
// go on, Escape leaves.

import { forgetOne, justLeft, keepRefused, keptTyped, offer } from "./cell-drafts.js";
import { CellField } from "./cell-field.js";
import { CellWrites } from "./cell-writes.js";
import { RangeOfCells } from "./cell-range.js";
import { RowPicks } from "./row-picks.js";

const STEPS = { Enter: "ArrowDown", Tab: "ArrowRight" };
const BACK = { Enter: "ArrowUp", Tab: "ArrowLeft" };

export class NpSheet extends HTMLElement {
  #range = new RangeOfCells(this);
  #picks = new RowPicks(this);
  #field = null;
  #writes = null;
  #keys = [];

  connectedCallback() {
    this.addEventListener("keydown", this.#onKey, true);
    this.addEventListener("keydown", this.#onFieldKey);
    this.addEventListener("focusout", this.#onLeave);
    for (const name of ["copy", "cut", "paste"]) document.addEventListener(name, this.#onClipboard);
    this.#range.start();
    this.#picks.start();
    const [form, template] = ["typed", "cell-field"].map((id) => document.getElementById(id));
    if (!form || !template) return;
    this.#field = new CellField(template);
    this.#writes = new CellWrites(
      this.region,
      form,
      () => Boolean(this.#field.cell),
      (typed) => offer(this.region, typed, this.#goOn),
    );
    if (!this.region.busy) this.#resume();
  }

  /** Take up what a page before this one left: writes that wait, and a field that was open. */
  async #resume() {
    await this.#writes.resume();
    for (const typed of await keptTyped(this.region)) this.#takeUp(typed);
    if (await justLeft(this.region)) this.#resume();
  }

  /** Open the field of a cell again with what was typed, or offer it where another field is in use; what the value
   * box shows is left to it. */
  #takeUp(typed) {
    const box = document.getElementById("cell-form");
    if (box && document.getElementById("value")?.value === typed.text) {
      keepRefused(this.region, typed);
      box.addEventListener("submit", () => forgetOne(this.region, typed));
    } else if (this.#cellOf(typed) && !this.#field.cell && !document.activeElement.matches("input, textarea, select"))
      this.#goOn(typed);
    else {
      keepRefused(this.region, typed);
      offer(this.region, typed, this.#goOn);
    }
  }

  #cellOf({ token, mode }) {
    const cell = document.getElementById(`cell-${token}:${mode}`);
    return cell && this.contains(cell) ? cell : null;
  }

  #goOn = (typed) => {
    const cell = this.#cellOf(typed);
    if (!cell) {
      this.region.load(`?cell=${encodeURIComponent(`${typed.token}:${typed.mode}`)}`);
      return;
    }
    forgetOne(this.region, typed);
    cell.scrollIntoView({ block: "nearest" });
    this.#open(cell, typed.text);
  };

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey, true);
    this.removeEventListener("keydown", this.#onFieldKey);
    this.removeEventListener("focusout", this.#onLeave);
    for (const name of ["copy", "cut", "paste"]) document.removeEventListener(name, this.#onClipboard);
    this.#range.stop();
    this.#picks.stop();
  }

  get region() {
    return this.closest("np-region");
  }

  #onKey = (event) => {
    const cell = event.target;
    if (!cell.matches?.("a.cell")) return;
    if (this.#moving) {
      if (!this.#keys.length) this.#moving.then(this.#replay);
      this.#keys.push({ key: event.key, shiftKey: event.shiftKey, bubbles: true, cancelable: true });
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const control = event.ctrlKey || event.metaKey;
    const key = control ? `Ctrl ${event.key.toLowerCase()}` : event.key;
    this.#range.keyPressed(event);
    if (key === " ") this.#picks.toggle(this.#range.cells, event.shiftKey);
    else if (key === "Delete" || key === "Backspace") this.#submit({ command: "clear-cells" });
    else if (key === "Ctrl d") this.#submit({ command: event.shiftKey ? "fill-cells?along=yes" : "fill-cells" });
    else if (key === "Ctrl a") this.#range.all();
    else if (key === "F2") this.#open(cell, cell.dataset.value);
    else if (key === "Insert" || key === "Ctrl enter") this.#adder(cell)?.click();
    else if (!control && !event.altKey && key.length === 1) this.#open(cell, key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  /** Resolves when the focus has moved to a row that is on its way; undefined where it is there. */
  get #moving() {
    return this.querySelector("np-grid")?.moving;
  }

  /** Let the keys that were pressed while a row was on its way do what they do. */
  #replay = () => {
    while (this.#keys.length && !this.#moving) {
      const key = this.#keys.shift();
      if (this.#field?.cell && key.key.length === 1) this.#field.type(key.key);
      else document.activeElement.dispatchEvent(new KeyboardEvent("keydown", key));
    }
    if (this.#keys.length) this.#moving.then(this.#replay);
  };

  /** The link that adds a token to the group a cell lies in. */
  #adder(cell) {
    const follows = (link) => link.compareDocumentPosition(cell) & Node.DOCUMENT_POSITION_FOLLOWING;
    return [...this.querySelectorAll("[data-adds]")].findLast(follows);
  }

  #open(cell, text) {
    this.#writes?.keyPressed();
    this.#field?.open(cell, text, cell.dataset.value);
  }

  #onFieldKey = (event) => {
    if (!this.#field?.holds(event.target)) return;
    this.#writes.keyPressed();
    if (event.defaultPrevented || event.isComposing) return;
    if (event.key !== "Escape" && !(event.key in STEPS)) return;
    event.preventDefault();
    event.stopPropagation();
    const { cell } = this.#field;
    if (event.key === "Escape") this.#field.close();
    else this.#store();
    cell.focus({ preventScroll: true });
    if (event.key !== "Escape") {
      const key = (event.shiftKey ? BACK : STEPS)[event.key];
      cell.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
    } else this.#caughtUp();
  };

  #onLeave = (event) => {
    if (this.#field?.holds(event.target) && !this.#field.holds(event.relatedTarget)) this.#store();
  };

  /** Close the field and store what was typed in it. */
  #store() {
    const { cell } = this.#field;
    const text = this.#field.close();
    if (text === null) this.#caughtUp();
    else this.#writes.push(cell, text.trim());
  }

  /** Show what came while the field was open. */
  #caughtUp() {
    if (this.region?.waiting && !this.region.busy) this.region.load(location.href, { push: false });
  }

  #onClipboard = (event) => {
    if (
      !this.#range.cells.length ||
      !document.activeElement.matches("a.cell") ||
      !this.contains(document.activeElement)
    )
      return;
    event.preventDefault();
    if (event.type === "paste") this.#paste(event.clipboardData.getData("text/plain"));
    else {
      event.clipboardData.setData("text/plain", this.#range.text);
      if (event.type === "cut") this.#submit({ command: "clear-cells" });
    }
  };

  async #paste(text) {
    await this.#range.reach(text.replace(/\n$/, "").split("\n"));
    this.#submit({ text }, document.getElementById("bulk")?.dataset.paste);
  }

  async #submit(fields, action) {
    const form = document.getElementById("bulk");
    if (!form) return;
    const { region } = this;
    if (!(await this.#range.whole)) {
      region.say("Some rows of the range did not come. Nothing was stored; try again.");
      return;
    }
    const { cells, anchor } = this.#range;
    const data = new FormData(form);
    data.set("tokens", JSON.stringify([...new Set(cells.map((cell) => cell.dataset.token))]));
    data.set("modes", JSON.stringify([...new Set(cells.map((cell) => cell.dataset.mode))].filter(Boolean)));
    for (const [name, value] of Object.entries(fields)) data.set(name, value);
    region.load(action ?? form.action, { body: data, focus: anchor.id });
  }
}

customElements.define("np-sheet", NpSheet);
