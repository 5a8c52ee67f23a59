// Parts of a region: its messages, its requests, and frames that are still loading.

import { lostConnection, wasStored } from "./answers.js";
import { forget } from "./drafts.js";

const PATIENCE = 4000;
const PAUSE = 500;
const SLOW = "The server has not answered yet. What you typed is kept here until it is stored.";

/** Say what went wrong in the place of messages, instead of what was said to have gone wrong before. */
export function say(region, sentence) {
  const box = document.createElement("div");
  box.className = "says error";
  box.setAttribute("role", "alert");
  const words = document.createElement("span");
  words.textContent = sentence;
  box.append(words);
  for (const old of region.querySelectorAll("#notes > .says.error")) old.remove();
  region.querySelector("#notes")?.append(box);
}

/** Whether somebody is typing into the fields of a region: nothing is shown in their place until they pause, and who
 * has gone on meanwhile is left where they are. */
export class Typing {
  #last = -PAUSE;
  #field = null;
  #acts = 0;

  constructor(region) {
    region.addEventListener("input", ({ target }) => {
      this.#last = performance.now();
      this.#field = target;
    });
    for (const act of ["keydown", "pointerdown", "input"]) region.addEventListener(act, () => (this.#acts += 1), true);
  }

  /** Where the focus is to go once an answer is there, as a function of where it was to go when it was asked for. */
  place() {
    const [acts, active] = [this.#acts, document.activeElement];
    return (wanted) => {
      const here = document.activeElement;
      const gone = this.#acts !== acts && here !== active && here.id;
      return gone ? here.id : wanted;
    };
  }

  /** What was typed into a form is sent: nobody is typing into it any more. */
  sent(form) {
    if (this.#field?.form === form) this.#last = -PAUSE;
  }

  get recent() {
    return performance.now() - this.#last < PAUSE;
  }

  /** Resolves when nobody is typing. */
  async pause() {
    while (this.recent) await new Promise((done) => setTimeout(done, 50));
  }
}

/** The link to another page of this application that a click follows in place; null where it follows none. */
export function followed(event) {
  const link = event.target.closest("a[href]");
  const plain = event.button === 0 && !event.metaKey && !event.ctrlKey && !event.shiftKey;
  if (!link || !plain || event.defaultPrevented || link.hasAttribute("data-whole")) return null;
  return link.origin === location.origin && !link.hasAttribute("download") && !link.target ? link : null;
}

/** The address of a link with what is open on this page, where the link keeps that. */
export function keeping(link) {
  const url = new URL(link.href);
  const here = new URL(location.href).searchParams;
  for (const name of (link.dataset.keeps ?? "").split(" "))
    if (name && here.has(name) && !url.searchParams.has(name)) url.searchParams.set(name, here.get(name));
  return url.href;
}

/** The address that a form asks for with what its fields hold; empty fields are left out. */
export function addressOf(form, data) {
  const url = new URL(form.action);
  url.search = new URLSearchParams([...data].filter(([, value]) => value)).toString();
  return url.href;
}

/** Give up frames that are still loading: a browser opens six connections to a server, and what was
 * asked for last would wait behind pictures that nobody is going to see. Those that load in turn wait themselves. */
export function dropFrames(region) {
  for (const frame of region.querySelectorAll("iframe:not([data-src])"))
    if (frame.contentDocument?.readyState !== "complete") frame.remove();
}

/** What the server answers, with its text; said in between where a write takes long. */
export async function answered(region, url, options) {
  const slow = options.body && setTimeout(() => say(region, SLOW), PATIENCE);
  try {
    const answer = await fetch(url, options);
    return { answer, text: await answer.text() };
  } finally {
    clearTimeout(slow);
  }
}

/** Look whether a write was stored whose answer was lost, and say so. */
export async function settleWrite(region, write, draft) {
  const stored = await wasStored(region.dataset.pulse, write);
  if (stored) forget(draft);
  if (stored !== null) say(region, lostConnection(stored));
}
