// Puts a new reading of a recipe beside its form without taking anything from
// under the hand: not while the pointer is down, since what is pressed has to be
// there when it is let go, and with what was opened and chosen in the last one.
import htmx from "htmx.org";

let pressing = false;
let waiting = null; // the reading that came while the pointer was down
let handled = new Map();

// Corrections by the line they stand under.
function corrections() {
  const list = document.querySelectorAll("#reading .correct");
  return new Map([...list].map((c) => [c.parentElement.querySelector("p").textContent, c]));
}

const kind = (select) => select.name.replace(/\[.*/, "");

function remember() {
  handled = new Map();
  for (const [line, correction] of corrections()) {
    const summary = correction.querySelector("summary");
    const changed = [...correction.querySelectorAll("select")].filter(
      (s) => !s.selectedOptions[0]?.defaultSelected,
    );
    handled.set(line, {
      open: correction.open && !correction.closest(".unsure"), // those are open of themselves
      focused: document.activeElement === summary,
      chosen: new Map(changed.map((s) => [kind(s), s.value])),
    });
  }
}

function restore() {
  for (const [line, correction] of corrections()) {
    const was = handled.get(line);
    if (!was) continue;
    correction.open ||= was.open;
    if (was.focused) correction.querySelector("summary").focus();
    for (const select of correction.querySelectorAll("select")) {
      const value = was.chosen.get(kind(select));
      if ([...select.options].some((option) => option.value === value)) select.value = value;
    }
  }
}

document.addEventListener("htmx:beforeSwap", (event) => {
  if (event.detail.target.id !== "reading" || !event.detail.shouldSwap) return;
  remember();
  if (!pressing) return;
  event.detail.shouldSwap = false;
  waiting = event.detail.serverResponse;
});

document.addEventListener("htmx:afterSwap", restore);

document.addEventListener("pointerdown", () => (pressing = true));

function release() {
  // Once what was pressed has had its click.
  setTimeout(() => {
    pressing = false;
    if (waiting === null) return;
    const html = waiting;
    waiting = null;
    remember();
    htmx.swap("#reading", html, { swapStyle: "outerHTML" });
    restore();
  });
}

// A press on a list that drops down may never be told to end.
for (const end of ["pointerup", "pointercancel", "keydown"]) document.addEventListener(end, release);
