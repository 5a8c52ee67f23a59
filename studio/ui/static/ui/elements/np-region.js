// <np-region id="room" data-project="…">: the part of the page that is swapped without a load.
// Links and forms inside it are fetched with the header X-Region; the answer replaces the
// content. What was stored is answered by a redirect, or at once with the address of the page in the
// header X-Address. Without this script they are ordinary links and forms.
// While the page is seen, asks the address in data-pulse every few seconds whether somebody else has
// stored something, and shows it.

import { give } from "./blend.js";
import { forget, keyOf } from "./drafts.js";
import { Focus } from "./focus.js";
import { GoneError, Held } from "./held.js";
import { lostConnection, problemOf, STORED, writeName } from "./answers.js";
import { Others } from "./others.js";
import { released } from "./press.js";
import { addressOf, answered, dropFrames, followed, keeping, say, settleWrite, Typing } from "./region-parts.js";
import { Sight } from "./sight.js";

const HEADER = "X-Region";
const ADDRESS = "X-Address";
const FOCUS = "X-Focus";
const HELD = "X-Held";

export class NpRegion extends HTMLElement {
  #request = null;
  #others = null;
  #idle = Promise.resolve();
  #lost = "";
  #writing = false;
  #refreshing = false;
  /** Whether an answer came while somebody was typing into the sheet, and is not shown. */
  waiting = false;
  /** Whether somebody is typing into a field just now. */
  typing = new Typing(this);
  #sight = new Sight(this);
  #held = new Held(this);
  #onOffline = () => this.say("You are offline. What you type is kept here; store it when the connection is back.");
  #onPop = () => this.load(location.href, { push: false });

  connectedCallback() {
    this.addEventListener("click", this.#onClick);
    this.addEventListener("submit", this.#onSubmit);
    window.addEventListener("popstate", this.#onPop);
    window.addEventListener("offline", this.#onOffline);
    this.#others = new Others({
      ...this.dataset,
      revision: () => +this.querySelector("[data-revision]")?.dataset.revision,
      quiet: () => !this.busy,
      heard: () => this.refresh(),
    });
    this.#held.start();
    this.#sight.keep();
    requestAnimationFrame(() => document.activeElement?.matches("[autofocus]") && document.activeElement.select?.());
    document.fonts?.ready.then(() => this.#sight.keep());
    customElements.whenDefined("np-later").then(() => this.#sight.keep()); // rows have their height now
  }

  disconnectedCallback() {
    this.#others.stop();
    this.#sight.stop();
    this.#held.stop();
    this.removeEventListener("click", this.#onClick);
    this.removeEventListener("submit", this.#onSubmit);
    window.removeEventListener("popstate", this.#onPop);
    window.removeEventListener("offline", this.#onOffline);
    this.#request?.abort();
  }

  #onClick = (event) => {
    const link = followed(event);
    if (!link) return;
    event.preventDefault();
    if (this.busy) this.#later(link);
    else this.load(keeping(link), { focus: link.dataset.back });
  };

  get busy() {
    return this.hasAttribute("aria-busy");
  }

  /** Resolves when nothing is on its way, so that what is clicked is what is shown. */
  get idle() {
    return this.#idle;
  }

  /** Let links, forms and refreshing wait for `work`, a promise of something being stored. */
  hold(work) {
    if (this.#refreshing) this.#giveUp(); // it would show the page as it was before
    this.setAttribute("aria-busy", "true");
    const held = work.finally(() => this.#idle === held && this.removeAttribute("aria-busy"));
    this.#idle = held;
  }

  #giveUp() {
    this.#request?.abort();
    [this.#request, this.#refreshing] = [null, false];
  }

  async #later(link) {
    await this.#idle;
    (document.getElementById(link.id) ?? link).click();
  }

  #onSubmit = (event) => {
    const form = event.target;
    if (form.method === "dialog") return;
    event.preventDefault();
    if (this.busy) {
      if (event.submitter?.id) this.#later(event.submitter);
      return;
    }
    this.typing.sent(form);
    const data = new FormData(form, event.submitter);
    if (form.method === "get") this.load(addressOf(form, data));
    else this.load(form.action, { body: data, focus: form.dataset.back, draft: keyOf(form) });
  };

  /** Show another page in place of this one, as a search does at each key; what is typed meanwhile stays.
   * Nothing happens while another page or a write is on its way. */
  async look(url) {
    if (this.busy) return;
    this.#request?.abort();
    const request = (this.#request = new AbortController());
    const came = await this.ask(url, undefined, { signal: request.signal }).catch(() => null);
    if (!came || this.#request !== request || this.busy || came.answer.headers.get(HEADER) !== this.id) return;
    const typed = document.activeElement;
    const { id, value } = typed;
    history.replaceState(null, "", url);
    this.#shown(came.text, id, false);
    const field = document.getElementById(id);
    if (field?.type !== "search" || field.value === value) return;
    field.value = value;
    field.dispatchEvent(new Event("input", { bubbles: true }));
  }

  load(url, options = {}) {
    // A write that is on its way is never given up: what comes after it waits.
    this.#idle = this.#writing ? this.#idle.then(() => this.#load(url, options)) : this.#load(url, options);
    return this.#idle;
  }

  async #load(url, { body, push = true, focus, draft, whole, write = writeName() }) {
    this.#giveUp();
    [this.#writing, this.#refreshing] = [Boolean(body), !body && !push];
    const request = (this.#request = new AbortController());
    const placed = this.typing.place();
    this.setAttribute("aria-busy", "true");
    if (!body) dropFrames(this);
    try {
      const came = await this.ask(url, body, { write, signal: request.signal, whole });
      if (body && came.answer.headers.has(STORED)) forget(draft);
      else if (body && came.answer.redirected) forget(draft);
      await released();
      if (body) await this.typing.pause();
      const place = placed(focus);
      const again = () => this.load(url, { body, push, focus: place, draft, write, whole: true });
      if (this.#request === request) this.show(came, { body, push, focus: place, again });
    } catch (error) {
      if (error.name !== "AbortError") {
        this.say(lostConnection(body ? null : undefined));
        if (body) await settleWrite(this, write, draft);
      }
    } finally {
      if (this.#request === request) {
        this.#writing = this.#refreshing = false;
        this.removeAttribute("aria-busy");
      }
    }
  }

  /** An answer with its text; rejects where the request was given up or did not get through. */
  async ask(url, body, { write, signal, whole } = {}) {
    const headers = { [HEADER]: this.id, [FOCUS]: document.activeElement?.dataset.token ?? "" };
    if (!whole) headers[HELD] = this.#held.digests;
    if (write && body) headers["X-Write"] = write;
    return answered(this, url, { method: body ? "POST" : "GET", body, headers, signal });
  }

  /** Show an answer: the region it holds, or what it says in its place. */
  show({ answer, text }, { body, push = true, focus, again } = {}) {
    const stored = body && (answer.redirected || answer.headers.has(ADDRESS) || answer.headers.has(STORED));
    this.waiting = Boolean(this.querySelector("[data-typing]"));
    if (this.waiting) {
      if (push && !body) history.pushState(null, "", answer.url);
    } else if (answer.headers.get(HEADER) !== this.id) {
      if (answer.ok && (answer.redirected || !body)) location.assign(answer.url);
      else this.say(problemOf(answer, text));
    } else {
      const address = answer.headers.get(ADDRESS) ?? answer.url;
      if (push && (!body || stored)) history.pushState(null, "", address);
      this.#shown(text, !body || stored ? focus : undefined, !stored, body && !stored ? again : undefined);
    }
    if (stored) this.tell();
  }

  /** Tell the other tabs that something was stored. */
  tell() {
    this.#others.tell();
  }

  /** Show what an answer holds; `again` asks for all of it where it counts on parts that have gone. */
  #shown(text, focus, autofocus, again = () => this.load(location.href, { push: false, focus, whole: true })) {
    try {
      this.#held.during(() => this.#swap(text, focus, autofocus));
    } catch (error) {
      if (error instanceof GoneError) {
        again();
        return;
      }
      reportError(error);
      this.say("This page could not show the answer of the server. Load it again; what was stored is stored.");
    }
  }

  #swap(text, focus, autofocus) {
    const held = new Focus(this, focus);
    const fresh = new DOMParser().parseFromString(text, "text/html");
    give(this, fresh.body);
    this.#lost = held.restore(autofocus && !focus ? this.querySelector("[autofocus]") : null);
    this.#sight.keep();
    this.dispatchEvent(new CustomEvent("np-region-swapped", { bubbles: true }));
  }

  /** Give the focus to what had it, where that was not there at once and has come since. */
  returnFocus() {
    const wanted = this.#lost && document.activeElement === document.body && document.getElementById(this.#lost);
    if (!wanted) return;
    this.#lost = "";
    wanted.focus({ preventScroll: true });
  }

  /** Show the page as it is now, unless somebody is typing or storing. */
  refresh() {
    const typing = this.contains(document.activeElement) && document.activeElement.matches("input, select, textarea");
    if (!typing && !this.busy) this.load(location.href, { push: false });
  }

  /** Say what went wrong in the place of messages, instead of what was said to have gone wrong before. */
  say(sentence) {
    say(this, sentence);
  }
}

customElements.define("np-region", NpRegion);
