// What was typed into cells of the sheet and is not stored yet: the writes that wait, the text of a field that is
// still open, and texts that were refused. They are kept in the browser by person, project and tab. The next sheet
// takes them up where the tab that kept them is gone, or is this one; a page that keeps something holds a lock.

import { read, who } from "./drafts.js";

const LOCK = "np-tab ";
const KINDS = ["writes", "typed", "refused"];
/** Milliseconds in which a tab that is closed has gone. */
const LEAVING = 1000;

function ownTab() {
  const known = sessionStorage.getItem("np-tab") ?? crypto.randomUUID();
  sessionStorage.setItem("np-tab", known);
  return known;
}

const TAB = ownTab();
let isHeld = false;

/** Say to other tabs that this one has what it keeps. */
function hold() {
  if (!isHeld) navigator.locks?.request(LOCK + TAB, () => new Promise(() => {}));
  isHeld = true;
}

const prefix = (kind, region) => `np-${kind} ${who()}|${region.dataset.project}|`;

function write(key, value) {
  try {
    if (value?.length) localStorage.setItem(key, JSON.stringify(value));
    else localStorage.removeItem(key);
  } catch {
    // The storage is full or forbidden; the page still has what was typed.
  }
}

/** The locks of the tabs that are there. */
async function locks() {
  const held = (await navigator.locks?.query())?.held ?? [];
  return new Set(held.map((lock) => lock.name));
}

/** Whether a tab has kept something that was there a moment ago and is gone now: it was just being closed. */
export async function justLeft(region) {
  const there = await locks();
  const owner = (key) => LOCK + key.split("|").at(-1);
  const others = Object.keys({ ...localStorage }).filter(
    (key) => KINDS.some((kind) => key.startsWith(prefix(kind, region))) && there.has(owner(key)) && !key.endsWith(TAB),
  );
  if (!others.length) return false;
  await new Promise((done) => setTimeout(done, LEAVING));
  const still = await locks();
  return others.some((key) => localStorage.getItem(key) && !still.has(owner(key)));
}

/** What this tab, and tabs that are gone, have kept of a kind; it is this tab's from now on. */
async function taken(kind, region) {
  const there = await locks();
  const own = prefix(kind, region) + TAB;
  const left = Object.keys({ ...localStorage }).filter(
    (key) => key.startsWith(prefix(kind, region)) && (key === own || !there.has(LOCK + key.split("|").at(-1))),
  );
  const found = left.map(read).filter(Boolean);
  for (const key of left) write(key, null);
  return found;
}

function keep(kind, region, entries) {
  if (entries.length) hold();
  write(prefix(kind, region) + TAB, entries);
}

/** Keep the writes of cells that wait to be stored. */
export const keepWrites = (region, queue) => keep("writes", region, queue);

/** The writes that pages before this one have left. */
export async function keptWrites(region) {
  const left = (await taken("writes", region)).flat();
  keepWrites(region, left);
  return left;
}

/** Keep what is typed into a cell, {token, mode, text}; null once its field is closed. */
export const keepTyped = (region, typed) => keep("typed", region, typed ? [typed] : []);

const refused = (region) => read(prefix("refused", region) + TAB) ?? [];

/** Keep a text that a cell refused, until something is stored there. A cell may have refused several. */
export function keepRefused(region, { token, mode, text }) {
  forgetOne(region, { token, mode, text });
  keep("refused", region, [...refused(region), { token, mode, text }]);
}

/** Forget one refused text of a cell. */
export function forgetOne(region, { token, mode, text }) {
  const isIt = (one) => one.token === token && one.mode === mode && one.text === text;
  keep(
    "refused",
    region,
    refused(region).filter((one) => !isIt(one)),
  );
}

/** Forget the refused texts of a cell in which something is stored. */
export function forgetCell(region, { token, mode }) {
  keep(
    "refused",
    region,
    refused(region).filter((one) => one.token !== token || one.mode !== mode),
  );
}

/** What was being typed, or was refused, as a page before this one went away: a list of {token, mode, text}. */
export const keptTyped = async (region) =>
  [...(await taken("typed", region)), ...(await taken("refused", region))].flat();

/** Say that a text was not stored, with a way to go on with it and one to forget it. */
export function offer(region, typed, open) {
  const box = document.createElement("div");
  box.className = "says kept-text";
  box.setAttribute("role", "status");
  const words = document.createElement("span");
  words.textContent = `What you typed into a cell earlier was not stored: “${typed.text}”.`;
  box.append(words);
  for (const [label, then] of [
    ["Go on", () => open(typed)],
    ["Discard it", () => forgetOne(region, typed)],
  ]) {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "linkish";
    button.textContent = label;
    button.addEventListener("click", () => {
      box.remove();
      then();
    });
    box.append(button);
  }
  region.querySelector("#notes")?.append(box);
}
