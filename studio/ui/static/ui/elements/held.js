// What a region holds already: elements whose data-as is a digest of their markup. The server is told of them, and
// sends an empty element of data-held for each that would be the same. What somebody has changed since is not held.

const PART = "[data-as]";
const STUB = "[data-held]";
const MOST = 700;
const WATCHED = ["aria-current", "class", "data-value", "hidden", "href", "title", "value"];

/** Thrown where an answer counts on a part that is not there any more. */
export class GoneError extends Error {}

export class Held {
  #region;
  #observer = new MutationObserver((changes) => this.#changed(changes));

  constructor(region) {
    this.#region = region;
  }

  start() {
    const what = { subtree: true, childList: true, characterData: true, attributeFilter: WATCHED };
    this.#observer.observe(this.#region, what);
  }

  stop() {
    this.#observer.disconnect();
  }

  /** What the server is told: the digests, with spaces between. */
  get digests() {
    this.#changed(this.#observer.takeRecords());
    const parts = [...this.#region.querySelectorAll(PART)].slice(0, MOST);
    return parts.map((part) => part.dataset.as).join(" ");
  }

  /** Do what shows an answer: it changes nothing that is held. */
  during(work) {
    this.#changed(this.#observer.takeRecords());
    try {
      return work();
    } finally {
      this.#observer.takeRecords();
    }
  }

  #changed(changes) {
    for (const { target } of changes) {
      if (target.localName === "details") continue; // opened or closed: its content is the same
      const element = target.nodeType === Node.ELEMENT_NODE ? target : target.parentElement;
      for (let part = element?.closest(PART); part; part = part.parentElement?.closest(PART))
        part.removeAttribute("data-as");
    }
  }
}

/** The parts of an element by digest, each taken once by what stands for it in an answer. */
export class Parts {
  #parts;
  #wanted;

  /** The parts of `root`, and those that an answer counts on. */
  constructor(root, fresh) {
    this.#parts = new Map([...root.querySelectorAll(PART)].map((part) => [part.dataset.as, part]));
    this.#wanted = new Set([...fresh.querySelectorAll(STUB)].map((node) => this.of(node)));
  }

  /** Whether a node of the old page is counted on. */
  wanted(node) {
    return this.#wanted.has(node);
  }

  /** The part that a node stands for, with its boxes as they came; null where it stands for none. */
  of(node) {
    if (node.nodeType !== Node.ELEMENT_NODE || !node.matches(STUB)) return null;
    const part = this.#parts.get(node.dataset.as);
    if (!part) throw new GoneError(node.dataset.as);
    return part;
  }

  /** Take a part into use. */
  take(part) {
    this.#wanted.delete(part);
    for (const box of part.querySelectorAll("input[type=checkbox]")) box.checked = box.defaultChecked;
    return part;
  }

  /** Put the parts into an element that an answer brought, in place of what stands for them. */
  fill(fresh) {
    for (const node of fresh.querySelectorAll(STUB)) node.replaceWith(this.take(this.of(node)));
  }
}
