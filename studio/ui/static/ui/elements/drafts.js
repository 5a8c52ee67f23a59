// What is typed into a form and not stored yet is kept in the browser, by person, project and form: it
// survives another room, a closed tab and a minute without a connection, and goes once it is stored. A form
// is told from others by its id, its address and what it is about (its hidden fields but for the state of the
// page, which are marked data-state). Passwords, files, searches and forms with data-no-drafts are never kept.

const PREFIX = "np-draft ";
const DAYS = 7 * 24 * 3600 * 1000;
const KEPT = "input:not([type=hidden], [type=password], [type=file], [type=search], [type=submit]), textarea, select";
const ABOUT = "input[type=hidden]:not([data-state], [name=csrfmiddlewaretoken], [name=revision], [name=next])";

/** The person who is signed in. */
export const who = () => document.body.dataset.person ?? "";
const fieldsOf = (form) => [...form.elements].filter((field) => field.name && field.matches(KEPT));
const isChecked = (field) => field.matches("[type=checkbox], [type=radio]");
const valueOf = (field) => (isChecked(field) ? `${field.value} ${field.checked}` : field.value);
const first = (field) => {
  if (isChecked(field)) return `${field.value} ${field.defaultChecked}`;
  if (field.matches("select"))
    return [...field.options].find((one) => one.defaultSelected)?.value ?? field.options[0]?.value;
  return field.defaultValue;
};

/** The name under which the draft of a form is kept; empty for one that has none. */
export function keyOf(form) {
  if (form.method !== "post" || form.closest("[data-no-drafts]")) return "";
  const about = [...form.querySelectorAll(ABOUT)].map((field) => `${field.name}=${field.value.slice(0, 200)}`).sort();
  return PREFIX + [who(), new URL(form.action).pathname, form.id, ...about].join("|");
}

/** What is kept under a name, or null. */
export const read = (key) => {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "null");
  } catch {
    return null;
  }
};

/** Keep what a form holds, or nothing where it is as it came. */
export function keep(form) {
  const key = keyOf(form);
  if (!key) return;
  const fields = fieldsOf(form);
  const changed = fields.filter((field) => valueOf(field) !== first(field));
  try {
    if (!changed.length && !form.dataset.rest) localStorage.removeItem(key);
    else {
      const values = fields.map((field) => [field.name, valueOf(field)]);
      localStorage.setItem(key, JSON.stringify({ at: Date.now(), values }));
    }
  } catch {
    // The storage is full or forbidden; the field still holds what was typed.
  }
}

/** Forget the draft of a form, by the name it is kept under. */
export function forget(key) {
  if (key) localStorage.removeItem(key);
}

function put(form, values) {
  const left = values.slice();
  for (const field of fieldsOf(form)) {
    const place = left.findIndex(
      ([name, value]) => name === field.name && (!isChecked(field) || value.startsWith(`${field.value} `)),
    );
    if (place < 0) continue;
    const [[, value]] = left.splice(place, 1);
    if (isChecked(field)) field.checked = value === `${field.value} true`;
    else field.value = value;
  }
  const rest = form.querySelector("[data-draft-rest]");
  if (rest) putRest(rest, left);
}

/** Values of fields that the form makes as it is filled in: put where they are typed, as one text. */
function putRest(field, left) {
  const names = left.filter(([name]) => name === "color-name").map(([, value]) => value);
  const colors = left.filter(([name]) => name === "color-value").map(([, value]) => value);
  const text = colors.map((color, place) => (names[place] ? `${names[place]}: ${color}` : color)).join(", ");
  if (!text) return;
  field.value = field.value ? `${text}, ${field.value}` : text;
  field.dispatchEvent(new Event("change", { bubbles: true }));
}

/** Put drafts back into the forms of a part of the page, and say so beside each. */
export function restore(root) {
  for (const form of root.querySelectorAll("form")) {
    const key = keyOf(form);
    const draft = key && !form.dataset.drafted ? read(key) : null;
    if (!draft) continue;
    form.dataset.drafted = "yes";
    if (Date.now() - draft.at > DAYS) {
      forget(key);
      continue;
    }
    const before = fieldsOf(form).map(valueOf).join("\n");
    put(form, draft.values);
    if (fieldsOf(form).map(valueOf).join("\n") === before) continue;
    form.prepend(note(form, key));
    stir(form);
  }
}

/** Let what follows a form know that it was filled in. */
const stir = (form) => fieldsOf(form)[0]?.dispatchEvent(new Event("input", { bubbles: true }));

function note(form, key) {
  const told = document.createElement("p");
  told.className = "draft-note";
  told.setAttribute("role", "status");
  told.append("What you typed here earlier was not stored yet. ");
  const button = document.createElement("button");
  button.type = "button";
  button.className = "linkish small";
  button.textContent = "Discard it";
  button.addEventListener("click", () => {
    forget(key);
    form.reset();
    told.remove();
    stir(form);
    forget(key);
  });
  told.append(button);
  return told;
}

function onInput(event) {
  const { form } = event.target;
  if (form && event.isTrusted !== false) keep(form);
}

/** What a plain form sends goes once another page has come of it, but for a button that leaves what is typed aside. */
function onSubmit(event) {
  const form = event.target;
  if (form.closest("np-region") || event.defaultPrevented || event.submitter?.matches("[data-leaves]")) return;
  const key = keyOf(form);
  if (key && localStorage.getItem(key)) sessionStorage.setItem("np-sent", JSON.stringify([key, location.pathname]));
}

function settle() {
  const [key, from] = JSON.parse(sessionStorage.getItem("np-sent") ?? "[]");
  if (!key) return;
  sessionStorage.removeItem("np-sent");
  if (from !== location.pathname) forget(key);
}

document.addEventListener("input", onInput);
document.addEventListener("change", onInput);
document.addEventListener("submit", onSubmit);
document.addEventListener("np-region-swapped", (event) => restore(event.target));
settle();
customElements.whenDefined("np-start").then(() => restore(document));
