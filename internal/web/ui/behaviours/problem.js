// Takes the eye, and the keyboard, to the first wrong entry.
function show() {
  const field = document.querySelector('main [aria-invalid="true"]');
  const problem = field ?? document.querySelector("main .problem");
  if (field) field.focus({ preventScroll: true });
  if (problem) problem.scrollIntoView({ block: "center" });
}

document.addEventListener("htmx:afterSettle", show);
show();
