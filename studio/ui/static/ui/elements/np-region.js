// <np-region id="room" data-project="…">: the part of the page that is swapped without a load.
// Links and forms inside it are fetched with the header X-Region; the answer replaces the
// content. What was stored is answered by a redirect, or at once with the address of the page in the
// header X-Address. Without this script they are ordinary links and forms.
// While the page is seen, asks the address in data-pulse every few seconds whether somebody else has
// stored something, and shows it.

import { Sight } from "./sight.js";

const HEADER = "X-Region";
const ADDRESS = "X-Address";
const PULSE = 2500;

export class NpRegion extends HTMLElement {
  #request = null;
  #channel = null;
  #idle = Promise.resolve();
  #lost = "";
  #pulse = 0;
  #sight = new Sight(this);
  #onPop = () => this.load(location.href, { push: false });

  connectedCallback() {
    this.addEventListener("click", this.#onClick);
    this.addEventListener("submit", this.#onSubmit);
    window.addEventListener("popstate", this.#onPop);
    this.#channel = new BroadcastChannel(`np-${this.dataset.project}`);
    this.#channel.onmessage = () => this.#refresh();
    this.#sight.keep();
    document.fonts?.ready.then(() => this.#sight.keep());
    customElements.whenDefined("np-later").then(() => this.#sight.keep()); // rows have their height now
    if (this.dataset.pulse) this.#pulse = setInterval(() => this.#listen(), PULSE);
  }

  disconnectedCallback() {
    clearInterval(this.#pulse);
    this.#sight.stop();
    this.removeEventListener("click", this.#onClick);
    this.removeEventListener("submit", this.#onSubmit);
    window.removeEventListener("popstate", this.#onPop);
    this.#channel.close();
    this.#request?.abort();
  }

  #onClick = (event) => {
    const link = event.target.closest("a[href]");
    const plain = event.button === 0 && !event.metaKey && !event.ctrlKey && !event.shiftKey;
    if (!link || !plain || event.defaultPrevented || link.hasAttribute("data-whole")) return;
    if (link.origin !== location.origin || link.hasAttribute("download") || link.target) return;
    event.preventDefault();
    if (this.busy) this.#later(link);
    else this.load(link.href, { focus: link.dataset.back });
  };

  get busy() {
    return this.hasAttribute("aria-busy");
  }

  /** Resolves when nothing is on its way, so that what is clicked is what is shown. */
  get idle() {
    return this.#idle;
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
    const data = new FormData(form, event.submitter);
    if (form.method === "get") {
      const url = new URL(form.action);
      url.search = new URLSearchParams([...data].filter(([, value]) => value)).toString();
      this.load(url.href);
    } else {
      this.load(form.action, { body: data, focus: form.dataset.back });
    }
  };

  load(url, options = {}) {
    this.#idle = this.#load(url, options);
    return this.#idle;
  }

  async #load(url, { body, push = true, focus }) {
    this.#request?.abort();
    const request = (this.#request = new AbortController());
    this.setAttribute("aria-busy", "true");
    try {
      const answer = await fetch(url, {
        method: body ? "POST" : "GET",
        body,
        headers: { [HEADER]: this.id },
        signal: request.signal,
      });
      if (answer.headers.get(HEADER) !== this.id) {
        if (answer.redirected || !body) location.assign(answer.url);
        else this.say("This could not be stored. Nothing was changed; load the page and try again.");
        return;
      }
      const text = await answer.text();
      const address = answer.headers.get(ADDRESS) ?? answer.url;
      const stored = body && (answer.redirected || answer.headers.has(ADDRESS));
      if (push && (!body || stored)) history.pushState(null, "", address);
      this.#swap(text, !body || stored ? focus : undefined, !stored);
      if (stored) this.#channel.postMessage("stored");
    } catch (error) {
      if (error.name !== "AbortError") this.say("The server does not answer. What you typed is still here; try again.");
    } finally {
      if (this.#request === request) this.removeAttribute("aria-busy");
    }
  }

  #swap(text, focus, autofocus) {
    const active = focus ?? document.activeElement?.id;
    const caret = document.activeElement?.selectionStart ?? null;
    const scrolled = new Map([...this.querySelectorAll(".body[id]")].map((one) => [one.id, one.scrollTop]));
    const fresh = new DOMParser().parseFromString(text, "text/html");
    this.replaceChildren(...fresh.body.childNodes);
    for (const [id, top] of scrolled) {
      const body = document.getElementById(id);
      if (body) body.scrollTop = top;
    }
    const wanted = (autofocus && !focus && this.querySelector("[autofocus]")) || (active && document.getElementById(active));
    this.#lost = wanted ? "" : (active ?? "");
    wanted?.focus({ preventScroll: true });
    if (wanted?.id === active && caret !== null && wanted.type === "search") wanted.setSelectionRange(caret, caret);
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

  async #listen() {
    if (document.hidden || this.busy) return;
    const answer = await fetch(this.dataset.pulse).catch(() => null);
    if (!answer?.ok || this.busy) return;
    const { revision } = await answer.json().catch(() => ({}));
    const shown = this.querySelector("[data-revision]")?.dataset.revision;
    if (revision > +shown) this.#refresh();
  }

  #refresh() {
    const busy = this.contains(document.activeElement) && document.activeElement.matches("input, select, textarea");
    if (!busy && !this.busy) this.load(location.href, { push: false });
  }

  /** Say a sentence above the room. */
  say(sentence) {
    const box = document.createElement("div");
    box.className = "says error";
    box.setAttribute("role", "alert");
    const words = document.createElement("span");
    words.textContent = sentence;
    box.append(words);
    this.querySelector("main")?.prepend(box);
  }
}

customElements.define("np-region", NpRegion);
