// Fragments of HTML from the server, for the elements that show them.

/** Characters of an address that every proxy lets through. */
const LONGEST = 1500;

/** Ask what an address asks, whose query is sent in the body where it is too long for an address. */
export function asked(url, options = {}) {
  const { origin, pathname, searchParams } = new URL(url, location.href);
  if (searchParams.toString().length <= LONGEST) return fetch(url, options);
  const headers = { ...options.headers, "X-Query": "body" };
  return fetch(origin + pathname, { ...options, method: "POST", headers, body: searchParams });
}

/** The body of the fragment at an address, or null where none came. */
export async function fragment(url, signal) {
  const answer = await asked(url, { signal }).catch(() => null);
  const text = answer?.ok ? await answer.text().catch(() => null) : null;
  return text === null ? null : new DOMParser().parseFromString(text, "text/html").body;
}

/** The body of what an address answers to a request, and whether it was done. */
export async function fragmentOf(url, request) {
  const answer = await fetch(url, request).catch(() => null);
  const text = answer ? await answer.text().catch(() => "") : "";
  return { body: new DOMParser().parseFromString(text, "text/html").body, ok: Boolean(answer?.ok) };
}

/** Asks for fragments one after the other. */
export class Asker {
  #request = null;

  /** As `fragment`; undefined where something else was asked for meanwhile. */
  async ask(url) {
    this.stop();
    const request = (this.#request = new AbortController());
    const body = await fragment(url, request.signal);
    return request.signal.aborted ? undefined : body;
  }

  stop() {
    this.#request?.abort();
  }
}
