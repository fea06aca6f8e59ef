// Says with every state of a recipe's form that is kept while it is typed when
// that was, so that the server can tell an older one that arrives late.
let saved = null; // the form that is on its way, with all that was typed

document.addEventListener("htmx:configRequest", (event) => {
  const form = event.target.closest("[data-edit]");
  if (!form) return;
  event.detail.parameters.typed = Date.now();
  if (form === saved) event.preventDefault();
});
// What is kept after it would find nothing any more to be kept in.
document.addEventListener("submit", (event) => {
  if (!event.target.matches("[data-edit]")) return;
  saved = event.target;
  saved.dispatchEvent(new CustomEvent("htmx:abort", { bubbles: true, detail: {} }));
});
window.addEventListener("pageshow", () => (saved = null));
