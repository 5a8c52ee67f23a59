import { forgetCell, keepRefused, keepWrites, keptWrites } from "./cell-drafts.js";
import { STORED, wasStored, writeName } from "./answers.js";

const AGAIN = 3000;
const QUIET = 500;

/**
 * Stores what was typed into cells, one after the other, while typing goes on. The page is only shown
 * afresh once all is stored and nobody has typed for a moment; what was refused is shown then.
 */
export class CellWrites {
  #region;
  #form;
  #typing;
  #offer;
  #queue = [];
  #refused = [];
  #came = null;
  #count = 0;
  #running = false;
  #lastKey = 0;
  #revisions = new Map();

  /** `form` holds the state of the page; `typing()` says whether a field is open; `offer(entry)` offers a text that
   * was typed on a page before and is refused now. */
  constructor(region, form, typing, offer) {
    [this.#region, this.#form, this.#typing, this.#offer] = [region, form, typing, offer];
  }

  /** Say that a key was pressed: the page is not shown afresh at once. */
  keyPressed() {
    this.#lastKey = performance.now();
  }

  /** Store `text` in a cell; an empty text clears it. */
  push(cell, text) {
    const { token, mode } = cell.dataset;
    const revision = this.#form.elements.revision.value;
    this.#queue.push({ id: cell.id, token, mode, text, revision, write: writeName() });
    keepWrites(this.#region, this.#queue);
    cell.dataset.value = text;
    cell.classList.add("pending");
    cell.querySelector("code").textContent = text;
    if (!this.#running) this.#region.hold(this.#drain());
  }

  /** Send what was typed before the page went away, and may not have been stored. */
  async resume() {
    for (const entry of await keptWrites(this.#region))
      if ((await wasStored(this.#region.dataset.pulse, entry.write)) === false)
        this.#queue.push({ ...entry, before: true });
    keepWrites(this.#region, this.#queue);
    if (this.#queue.length && !this.#running) this.#region.hold(this.#drain());
  }

  async #drain() {
    this.#running = true;
    window.addEventListener("beforeunload", this.#onLeave);
    while (
      this.#queue.length ||
      this.#typing() ||
      this.#region.typing.recent ||
      performance.now() - this.#lastKey < QUIET
    ) {
      if (this.#queue.length) {
        await this.#store(this.#queue[0]);
        this.#queue.shift();
        keepWrites(this.#region, this.#queue);
      } else await new Promise((done) => setTimeout(done, 50));
    }
    window.removeEventListener("beforeunload", this.#onLeave);
    this.#running = false;
    await this.#show();
  }

  #onLeave = (event) => {
    if (this.#queue.length) event.preventDefault();
  };

  async #store(entry) {
    const body = new FormData(this.#form);
    const revision = this.#revisions.get(entry.id) ?? entry.revision;
    const fields = { revision, token: entry.token, mode: entry.mode, value: entry.text, condition: "cell" };
    for (const [name, value] of Object.entries(fields)) body.set(name, value);
    if (!entry.text) body.set("clear", "1");
    const came = await this.#sent(entry, body);
    const stored = came?.answer.headers.get(STORED);
    if (stored) this.#revisions.set(entry.id, stored);
    if (!came || came.answer.ok) {
      this.#count += 1;
      this.#came = came;
      forgetCell(this.#region, entry);
    } else {
      keepRefused(this.#region, entry);
      this.#refused.push({ entry, came });
    }
  }

  /** The answer to a write, asked again until there is one; null where it was stored unseen. */
  async #sent(entry, body) {
    for (let told = false; ; told = true) {
      try {
        // It may be shown once other cells have changed, so it has to hold all of the page.
        return await this.#region.ask(this.#form.action, body, { write: entry.write, whole: true });
      } catch {
        if (!told)
          this.#region.say(
            "There is no connection to the server. What you typed waits here and is sent when it is back.",
          );
        if (await wasStored(this.#region.dataset.pulse, entry.write)) return null;
        await new Promise((done) => setTimeout(done, AGAIN));
      }
    }
  }

  /** Show the page as it is now, or the first cell that was refused. A text of a page before is offered and no more: who
   * has come to this page is left where they are. */
  async #show() {
    const focus = document.activeElement?.id;
    const [refused, count, came] = [this.#refused, this.#count, this.#came];
    [this.#refused, this.#count, this.#came] = [[], 0, null];
    const left = refused.filter(({ entry }) => entry.before);
    const [first, ...rest] = refused.filter(({ entry }) => !entry.before);
    if (first) {
      this.#region.show(first.came, { body: true });
      for (const { entry } of rest) this.#region.say(`This was refused too: “${entry.text}”. Its cell is as it was.`);
      if (count) this.#region.tell();
    } else if (count === 1 && came && !this.#region.waiting && !left.length)
      this.#region.show(came, { body: true, focus });
    else if (count) {
      this.#region.tell();
      await this.#region.load(location.href, { push: false, focus });
    }
    for (const { entry } of left) this.#offer(entry);
  }
}
