// Leads to the next step of a recipe whose minutes nobody has said: by the
// button above the steps, or with Alt and N.
function next() {
  const doubts = [...document.querySelectorAll("[data-doubt]")];
  if (doubts.length === 0) return;
  const here = document.activeElement?.closest?.("[data-doubt]");
  const row = doubts[(doubts.indexOf(here) + 1) % doubts.length];
  row.scrollIntoView({ block: "center" });
  row.querySelector(".guess input, input[name$='.heat']")?.focus();
}

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-next-doubt]")) next();
});

document.addEventListener("keydown", (event) => {
  if (!event.altKey || event.code !== "KeyN" || !document.querySelector("[data-doubt]")) return;
  event.preventDefault();
  next();
});

// What is typed in short has the word over the fields beside it.
document.addEventListener("input", (event) => {
  if (!event.target.matches?.("[data-short]")) return;
  for (const field of event.target
    .closest("[data-step]")
    .querySelectorAll(".step-fields input, .step-fields select")) {
    field.disabled = true;
  }
});
