// Giving a part of the page the content of another, with as little as possible taken away: what is equal stays, with
// its layout, its listeners and its focus. An element of our own stays where its class is listed here; where what it
// holds has changed it is told by leaving and entering the page again, as if it had been replaced.

import { Parts } from "./held.js";
import { settle, stands } from "./still.js";

const STAYS = new Set(
  "np-answers np-bar np-cards np-chrome np-close np-copy np-find np-grid np-group-picks np-later np-menu np-sheet np-turns np-typed"
    .split(" ")
    .map((name) => name.toUpperCase()),
);
const AHEAD = 4;
const TOKEN = "input[name=csrfmiddlewaretoken]";

const own = (element) => element.localName.includes("-");
const keyOf = (node) => (node.nodeType === Node.ELEMENT_NODE ? node.id || node.dataset?.row || "" : "");
const nameOf = (node) => `${node.nodeName} ${keyOf(node)}`;
const follows = (one, other) => one.compareDocumentPosition(other) & Node.DOCUMENT_POSITION_FOLLOWING;
const alike = (one, other) => one.nodeName === other.nodeName && keyOf(one) === keyOf(other);

/** Whether somebody has changed what a field holds, or picked something. */
function touched(element) {
  const fields = element.matches("input, select, textarea")
    ? [element]
    : element.querySelectorAll("input, select, textarea");
  for (const field of fields) {
    if (field.type === "hidden") continue;
    if (field.checked !== field.defaultChecked) return true;
    if (field.localName === "select" ? !plainChoice(field) : field.value !== field.defaultValue) return true;
  }
  return false;
}

/** Whether a list stands as the server sent it: what it has selected, or else its first. */
function plainChoice(select) {
  const said = select.querySelector("[selected]") !== null;
  return [...select.options].every((option, index) => option.selected === (said ? option.defaultSelected : !index));
}

/** Whether an element holds one that has to begin anew. */
const holdsOthers = (element) =>
  [element, ...element.querySelectorAll("*")].some((part) => own(part) && !STAYS.has(part.nodeName));

/** Whether the templates of two equal elements hold the same. */
function sameTemplates(old, fresh) {
  const all = (root) => [...(root.matches("template") ? [root] : []), ...root.querySelectorAll("template")];
  const others = all(fresh);
  return all(old).every((template, index) => template.innerHTML === others[index].innerHTML);
}

const equal = (old, fresh) => old.isEqualNode(fresh) && !touched(old) && !holdsOthers(old) && sameTemplates(old, fresh);

/** Make equal what differs from page to page and means the same. */
function prepare(old, fresh) {
  const token = old.querySelector(TOKEN)?.value;
  if (token) for (const field of fresh.querySelectorAll(TOKEN)) field.setAttribute("value", token);
  for (const grid of fresh.querySelectorAll("np-grid"))
    for (const cell of grid.querySelectorAll(`${grid.dataset.cells ?? "a.cell"}, a.fold`)) cell.tabIndex = -1;
}

/** Give an element the children of another, around what stays where it is. */
export function give(old, fresh) {
  if (!stands(old, fresh)) {
    blend(old, fresh);
    return;
  }
  new Parts(old, fresh).fill(fresh);
  settle(old, fresh);
}

function blend(old, fresh) {
  prepare(old, fresh);
  const todo = { changed: [], waiting: [], parts: new Parts(old, fresh) };
  children(old, fresh, todo);
  // Elements of our own look around as they come: all else is there by then.
  for (const [place, node] of todo.waiting) place.replaceWith(node);
  for (const element of todo.changed) {
    element.disconnectedCallback?.();
    element.connectedCallback?.();
  }
}

/** What stands for a new node until all else is in its place: itself, unless it holds elements of our own. */
function placed(node, { waiting, parts }) {
  if (node.nodeType === Node.ELEMENT_NODE) parts.fill(node);
  if (node.nodeType !== Node.ELEMENT_NODE || ![node, ...node.querySelectorAll("*")].some(own)) return node;
  const place = document.createComment("");
  waiting.push([place, node]);
  return place;
}

function children(old, fresh, todo) {
  const nodes = [...fresh.childNodes];
  const keyed = new Map([...old.childNodes].filter(keyOf).map((node) => [nameOf(node), node]));
  const named = new Set(nodes.filter(keyOf).map(nameOf));
  const stays = (node) => todo.parts.wanted(node) || (keyOf(node) && named.has(nameOf(node)));
  let at = old.firstChild;
  /** Let a node of the old page be the next one; what stands before it and is not needed goes. */
  const next = (node) => {
    if (node.parentNode === old && at && follows(at, node)) while (at !== node && !stays(at)) at = without(at);
    if (at === node) at = at.nextSibling;
    else old.insertBefore(node, at);
    if (keyOf(node)) keyed.delete(nameOf(node));
  };
  for (const node of nodes) {
    const part = todo.parts.of(node);
    if (part) {
      next(part);
      todo.parts.take(part);
      continue;
    }
    const found = keyOf(node) ? keyed.get(nameOf(node)) : ahead(at, node, stays);
    if (found) {
      next(found);
      merge(found, node, todo);
    } else old.insertBefore(placed(node, todo), at);
  }
  while (at) at = without(at);
  for (const node of keyed.values()) if (node.parentNode === old) node.remove();
}

/** Take a node away; the one behind it. */
function without(node) {
  const next = node.nextSibling;
  node.remove();
  return next;
}

/** The next node that is like another, not far behind; none beyond one that has a key or stays. */
function ahead(at, node, stays) {
  for (let count = 0; at && count < AHEAD; count++, at = at.nextSibling) {
    if (stays(at)) return null;
    if (alike(at, node)) return at;
    if (keyOf(at)) return null;
  }
  return null;
}

function merge(old, fresh, todo) {
  if (old.nodeType !== Node.ELEMENT_NODE) {
    if (old.nodeValue !== fresh.nodeValue) old.nodeValue = fresh.nodeValue;
    return;
  }
  if (equal(old, fresh)) return;
  if (!opened(old, fresh)) {
    old.replaceWith(placed(fresh, todo));
    return;
  }
  attributes(old, fresh);
  // Rows that come later stand as they were until they are asked for again.
  if (fresh.matches("tbody.later") && old.rows.length === +fresh.dataset.count) return;
  children(old, fresh, todo);
  if (own(old)) todo.changed.push(old);
}

/** Whether what an element holds can be changed while it stays. */
function opened(old, fresh) {
  if (own(old)) return STAYS.has(old.nodeName) && old.dataset.of === fresh.dataset.of;
  if (old.localName === "input") return old.type === "hidden" && fresh.type === "hidden";
  return old instanceof HTMLElement && !old.matches("iframe, select, textarea, template, dialog, video, canvas");
}

function attributes(old, fresh) {
  for (const { name } of [...old.attributes]) if (!fresh.hasAttribute(name)) old.removeAttribute(name);
  for (const { name, value } of fresh.attributes) if (old.getAttribute(name) !== value) old.setAttribute(name, value);
}
