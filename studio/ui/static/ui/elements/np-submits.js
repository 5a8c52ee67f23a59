// A field of data-submits sends its form when it is changed; while something else is on its way, after that. Loaded once;
// listens to the whole page.

async function submit(field) {
  const { id, value } = field;
  await field.closest("np-region")?.idle;
  const there = field.isConnected ? field : document.getElementById(id);
  if (!there) return;
  there.value = value;
  there.form.requestSubmit();
}

document.addEventListener("change", (event) => {
  if (event.target.matches("[data-submits]")) submit(event.target);
});
