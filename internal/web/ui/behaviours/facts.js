// The facts of a lesson open where they stand, one at a time. Escape or a press
// elsewhere closes one; those with several fields stay open while the lesson is
// planned again, so that one can go on typing.
const open = () => document.querySelector(".settings:not(.open) .fact[open]");

function close(fact) {
  fact.open = false;
  return fact.querySelector("summary");
}

document.addEventListener("keydown", (event) => {
  const fact = open();
  if (event.key === "Escape" && fact) close(fact).focus();
});

document.addEventListener("pointerdown", (event) => {
  const fact = open();
  if (fact && !fact.contains(event.target)) close(fact);
});

let kept;

document.addEventListener("htmx:beforeSwap", (event) => {
  if (event.detail.target.id !== "lesson") return; // what would help, say, has arrived
  const fact = open();
  const field = fact?.contains(document.activeElement) ? document.activeElement.id : "";
  kept = fact && { summary: fact.querySelector("summary").id, wide: fact.classList.contains("wide"), field };
});

document.addEventListener("htmx:afterSettle", () => {
  const summary = kept && document.getElementById(kept.summary);
  if (!summary) return;
  const { wide, field } = kept;
  kept = undefined;
  if (wide) summary.parentElement.open = true;
  const to = wide && field ? document.getElementById(field) : undefined;
  if (field) (to ?? summary).focus({ preventScroll: true });
});
