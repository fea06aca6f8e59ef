// Moves through the steps of a lesson's picture with the arrow keys, and
// explains the one that is pressed without loading the page anew.
import htmx from "htmx.org";

const steps = (picture) => [...picture.querySelectorAll("a[data-step]")];

const box = (step) => {
  const { x, y, width, height } = step.querySelector("rect").getBBox();
  return { left: x, middle: x + width / 2, centre: y + height / 2 };
};

// Only one step is on the way of the tab key; the arrows lead to the others.
function rove(picture) {
  const list = steps(picture);
  const first =
    picture.querySelector(".chosen")?.closest("a") ??
    list.find((step) => step.dataset.row !== "-1") ??
    list[0];
  for (const step of list) step.setAttribute("tabindex", step === first ? "0" : "-1");
  // The names of the benches lead where the links above the picture lead.
  for (const link of picture.querySelectorAll(".row-link[href*=by]:not([href*=steps])"))
    link.setAttribute("tabindex", "-1");
}

function beside(step, list, by) {
  const row = list
    .filter((other) => other.dataset.row === step.dataset.row)
    .sort((a, b) => box(a).left - box(b).left || box(a).centre - box(b).centre);
  return row[row.indexOf(step) + by];
}

function across(step, list, by) {
  const rows = [...new Set(list.map((other) => Number(other.dataset.row)))].sort((a, b) => a - b);
  const row = rows[rows.indexOf(Number(step.dataset.row)) + by];
  const here = box(step).middle;
  return list
    .filter((other) => Number(other.dataset.row) === row)
    .sort((a, b) => Math.abs(box(a).middle - here) - Math.abs(box(b).middle - here))[0];
}

const moves = {
  ArrowRight: (step, list) => beside(step, list, 1),
  ArrowLeft: (step, list) => beside(step, list, -1),
  ArrowDown: (step, list) => across(step, list, 1),
  ArrowUp: (step, list) => across(step, list, -1),
};

document.addEventListener("keydown", (event) => {
  const step = event.target.closest?.("a[data-step]");
  if (!step || !moves[event.key]) return;
  event.preventDefault();
  const list = steps(step.closest("svg"));
  const next = moves[event.key](step, list);
  if (!next) return;
  step.setAttribute("tabindex", "-1");
  next.setAttribute("tabindex", "0");
  next.focus();
});

document.addEventListener("click", async (event) => {
  const step = event.target.closest?.("a[data-step]");
  if (!step || event.ctrlKey || event.metaKey || event.shiftKey) return;
  if (!document.getElementById("explain")) return;
  event.preventDefault();
  const address = step.getAttribute("href");
  for (const bar of step.closest("svg").querySelectorAll(".chosen")) bar.classList.remove("chosen");
  for (const same of steps(step.closest("svg"))) {
    if (same.getAttribute("href") === address) same.querySelector("rect").classList.add("chosen");
  }
  await htmx.ajax("GET", address, { target: "#explain", swap: "outerHTML" });
  history.replaceState(null, "", address);
  document.getElementById("explain-head")?.focus({ preventScroll: true });
  document.getElementById("explain")?.scrollIntoView({ block: "nearest" });
});

document.addEventListener("htmx:load", (event) => {
  for (const picture of event.detail.elt.querySelectorAll("[data-picture]")) rove(picture);
});
for (const picture of document.querySelectorAll("[data-picture]")) rove(picture);
