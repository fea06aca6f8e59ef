// Moves the steps of a recipe that is being written: by dragging the handle,
// or with Alt and the arrow keys from anywhere in the step. The names of the
// fields follow the order, and the form then reads itself anew.
const rows = (list) => [...list.querySelectorAll("[data-step]")];

function renumber(list) {
  rows(list).forEach((row, n) => {
    for (const field of row.querySelectorAll("[name^='steps[']")) {
      field.name = field.name.replace(/^steps\[\d+\]/, `steps[${n}]`);
    }
    for (const button of row.querySelectorAll(".step-bar button")) button.value = n;
    for (const named of row.querySelectorAll(".step-bar [aria-label]")) {
      named.ariaLabel = named.ariaLabel.replace(/step \d+/, `step ${n + 1}`);
    }
    row.querySelector("[name=up]").disabled = n === 0;
    row.querySelector("[name=down]").disabled = n === rows(list).length - 1;
  });
  list.closest("form").dispatchEvent(new CustomEvent("reordered", { bubbles: true }));
}

document.addEventListener("keydown", (event) => {
  if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
  const row = event.target.closest("[data-step]");
  if (!row) return;
  event.preventDefault();
  const held = document.activeElement;
  const other = event.key === "ArrowUp" ? row.previousElementSibling : row.nextElementSibling;
  if (!other) return;
  if (event.key === "ArrowUp") other.before(row);
  else other.after(row);
  held.focus();
  renumber(row.parentElement);
});

let dragged = null;

function release() {
  if (!dragged) return;
  dragged.classList.remove("dragging");
  const list = dragged.parentElement;
  dragged = null;
  renumber(list);
}

document.addEventListener("pointerdown", (event) => {
  const handle = event.target.closest("[data-handle]");
  if (!handle) return;
  event.preventDefault();
  dragged = handle.closest("[data-step]");
  dragged.classList.add("dragging");
});

// Near the edge of the window the page moves along, at so many pixels a time.
const edge = 60;
const along = 24;

document.addEventListener("pointermove", (event) => {
  if (!dragged) return;
  if (event.clientY < edge) window.scrollBy(0, -along);
  if (event.clientY > window.innerHeight - edge) window.scrollBy(0, along);
  for (const row of rows(dragged.parentElement)) {
    if (row === dragged) continue;
    const box = row.getBoundingClientRect();
    if (event.clientY < box.top || event.clientY > box.bottom) continue;
    if (event.clientY < box.top + box.height / 2) row.before(dragged);
    else row.after(dragged);
    return;
  }
});

document.addEventListener("pointerup", release);
document.addEventListener("pointercancel", release);
