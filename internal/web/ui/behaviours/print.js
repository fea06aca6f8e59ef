// A button that opens the browser's print dialogue.
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});
