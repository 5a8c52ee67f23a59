// What was typed into cells of the sheet and is not stored yet: the writes that wait, and the text of a field that
// is still open. Both are kept in the browser by person, project and tab. The next page takes them up where
// the tab that kept them is gone, or is this one; a tab that is there holds a lock of its name.

import { read, who } from "./drafts.js";

const LOCK = "np-tab ";

function ownTab() {
  const known = sessionStorage.getItem("np-tab") ?? crypto.randomUUID();
  sessionStorage.setItem("np-tab", known);
  return known;
}

const TAB = ownTab();
navigator.locks?.request(LOCK + TAB, () => new Promise(() => {}));

const prefix = (kind, region) => `np-${kind} ${who()}|${region.dataset.project}|`;

function write(key, value) {
  try {
    if (value) localStorage.setItem(key, JSON.stringify(value));
    else localStorage.removeItem(key);
  } catch {
    // The storage is full or forbidden; the page still has what was typed.
  }
}

/** What this tab, and tabs that are gone, have kept of a kind; it is this tab's from now on. */
async function taken(kind, region) {
  const held = (await navigator.locks?.query())?.held ?? [];
  const there = new Set(held.map((lock) => lock.name));
  const own = prefix(kind, region) + TAB;
  const left = Object.keys({ ...localStorage }).filter(
    (key) => key.startsWith(prefix(kind, region)) && (key === own || !there.has(LOCK + key.split("|").at(-1))),
  );
  const found = left.map(read).filter(Boolean);
  for (const key of left) write(key, null);
  return found;
}

/** Keep the writes of cells that wait to be stored. */
export const keepWrites = (region, queue) => write(prefix("writes", region) + TAB, queue.length ? queue : null);

/** The writes that pages before this one have left. */
export async function keptWrites(region) {
  const left = (await taken("writes", region)).flat();
  keepWrites(region, left);
  return left;
}

/** Keep what is typed into a cell; nothing once its field is closed. */
export const keepTyped = (region, typed) => write(prefix("typed", region) + TAB, typed);

/** What was being typed into a cell as a page before this one went away: {token, mode, text}; undefined else. */
export const keptTyped = async (region) => (await taken("typed", region))[0];
