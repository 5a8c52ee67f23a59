// What came of a request, told in sentences. No connection, a refusal, a failure of the server and a
// failure of this page are four different things, and a write may have been stored in each of them.

export const STORED = "X-Stored";
const TRIES = [0, 500, 1500, 3000, 5000];

/** A name for one write, which the server keeps with it. */
export const writeName = () => crypto.randomUUID();

/** The sentences of a page that came in place of the region that was asked for. */
export function problemOf(answer, text) {
  const page = new DOMParser().parseFromString(text, "text/html");
  const parts = [...page.querySelectorAll("main.page :is(h1, p)")].filter((part) => !part.querySelector("a"));
  const sentences = parts.map((part) => part.textContent.trim()).filter(Boolean);
  const told = sentences.map((one) => (/[.!?]$/.test(one) ? one : `${one}.`)).join(" ");
  if (told) return told;
  const stored = answer.headers.get(STORED);
  if (stored) return `Your change was stored as revision ${stored}, but the page could not be shown. Load it again.`;
  return answer.status >= 500
    ? `The server failed (${answer.status}). Try again in a moment; what you typed is still here.`
    : `The server refused this (${answer.status}). Load the page again; what you typed is still here.`;
}

/** Whether a write was stored: true or false, or null where the server cannot be asked. */
export async function wasStored(pulse, write) {
  if (!pulse) return null;
  for (const pause of TRIES) {
    await new Promise((done) => setTimeout(done, pause));
    const url = new URL(pulse, location.href);
    url.searchParams.set("write", write);
    const answer = await fetch(url).catch(() => null);
    const told = answer?.ok ? await answer.json().catch(() => null) : null;
    if (told) return told.stored;
  }
  return null;
}

/** What to say where the connection broke; `stored` as `wasStored` answers, undefined for a read. */
export function lostConnection(stored) {
  if (stored === true) return "The connection broke, but your change was stored. Load the page again to see it.";
  if (stored === false) return "The connection broke and nothing was stored. What you typed is still here; try again.";
  if (stored === null)
    return "There is no connection to the server. What you typed is still here; look whether it was stored before you try again.";
  return "There is no connection to the server. Try again.";
}
