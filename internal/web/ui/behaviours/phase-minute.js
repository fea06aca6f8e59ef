// The minute of a phase matters only where the phase lies at a minute of its
// own; elsewhere its field steps back.
function follow(select) {
  const minute = document.getElementById(select.id.replace(/place$/, "minute"));
  if (minute) minute.hidden = select.value !== "minute";
}

function followAll(root) {
  for (const select of root.querySelectorAll(".phase select")) follow(select);
}

document.addEventListener("change", (event) => {
  if (event.target.matches(".phase select")) follow(event.target);
});
document.addEventListener("htmx:load", (event) => followAll(event.detail.elt));
followAll(document);
