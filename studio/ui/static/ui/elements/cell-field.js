import { keepTyped } from "./cell-drafts.js";

/**
 * The field that a cell of the sheet becomes while something is typed into it. `template` holds an
 * np-complete with an input; the cell waits, hidden, beside it.
 */
export class CellField {
  #template;
  #cell = null;
  #field = null;
  #was = "";

  constructor(template) {
    this.#template = template;
  }

  get cell() {
    return this.#cell;
  }

  /** Whether `target` is the field, so that a key pressed in it is for it. */
  holds(target) {
    return Boolean(this.#field?.contains(target));
  }

  /** Let a cell become a field that holds `text`; `was` is what the cell held. */
  open(cell, text, was) {
    this.#cell = cell;
    this.#was = was;
    this.#field = this.#template.content.firstElementChild.cloneNode(true);
    const source = new URL(this.#field.dataset.source, location.href);
    source.searchParams.set("token", cell.dataset.token);
    this.#field.dataset.source = source.href;
    const input = this.#field.querySelector("input");
    input.value = text;
    input.setAttribute("aria-label", `${cell.closest("tr").querySelector("th").title}, value`);
    cell.hidden = true;
    cell.after(this.#field);
    input.addEventListener("input", () => this.#keep(input.value));
    this.#keep(text);
    input.focus();
    input.setSelectionRange(text.length, text.length);
  }

  #keep(text) {
    const { token, mode } = this.#cell.dataset;
    const region = this.#cell.closest("np-region");
    if (region) keepTyped(region, text && text !== this.#was ? { token, mode, text } : null);
  }

  /** Add a key that was pressed before the field could have the focus. */
  type(key) {
    const input = this.#field.querySelector("input");
    input.value += key;
    input.dispatchEvent(new Event("input", { bubbles: true }));
  }

  /** Make it a cell again; what was typed, or null where that is what the cell held. */
  close() {
    if (!this.#cell) return null;
    const text = this.#field.querySelector("input").value;
    const field = this.#field;
    const region = this.#cell.closest("np-region");
    if (region) keepTyped(region, null);
    this.#cell.hidden = false;
    [this.#field, this.#cell] = [null, null];
    field.remove();
    return text === this.#was ? null : text;
  }
}
