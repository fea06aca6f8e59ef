// Says with every state of a recipe's form that is kept while it is typed when
// that was, so that the server can tell an older one that arrives late.
document.addEventListener("htmx:configRequest", (event) => {
  if (event.target.closest("[data-edit]")) event.detail.parameters.typed = Date.now();
});
