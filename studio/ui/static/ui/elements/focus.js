// What a person is at in a region while it is given another content: the field or the cell with the focus, the place
// of the caret, and how far each part is scrolled.

/** Where a field without an id stands: the address of its form, and its name. */
const placeOf = (field) => (field?.form && field.name ? [field.form.action, field.name] : null);

/** The field that stands in such a place. */
function fieldAt(region, place) {
  if (!place) return null;
  const forms = [...region.querySelectorAll("form")].filter((form) => form.action === place[0]);
  return forms.map((form) => form.elements.namedItem(place[1])).find((field) => field instanceof HTMLElement) ?? null;
}

export class Focus {
  #region;
  #id;
  #place = placeOf(document.activeElement);
  #caret = document.activeElement?.selectionStart ?? null;
  #scrolled;

  /** Remember it; `id` is that of what gets the focus instead. */
  constructor(region, id) {
    this.#region = region;
    this.#id = id || document.activeElement?.id;
    this.#scrolled = [...region.querySelectorAll(".body[id]")].map((body) => [body.id, body.scrollTop]);
  }

  /** Give everything back, or the focus to what asks for it. The id of what is not there any more, or empty. */
  restore(first) {
    for (const [id, top] of this.#scrolled) {
      const body = document.getElementById(id);
      if (body && top) body.scrollTop = top;
    }
    const wanted = first ?? (this.#id ? document.getElementById(this.#id) : fieldAt(this.#region, this.#place));
    if (!wanted) return this.#id ?? "";
    if (wanted !== document.activeElement) wanted.focus({ preventScroll: true });
    if (wanted.dataset.caret === "end") wanted.setSelectionRange(wanted.value.length, wanted.value.length);
    else if (wanted === first) wanted.select?.();
    if (wanted.id === this.#id && this.#caret !== null && wanted.type === "search")
      wanted.setSelectionRange(this.#caret, this.#caret);
    return "";
  }
}
