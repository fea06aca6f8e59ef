// Says so where a change could not be sent or was not taken. The form stays
// as it is, so that nothing typed is lost.
const notice = document.getElementById("notice");
let failed = null; // what asked

function say(text) {
  if (!notice) return;
  notice.textContent = text;
  notice.hidden = text === "";
}

document.addEventListener("htmx:sendError", (event) => {
  failed = event.detail.requestConfig.elt;
  say("Not saved: the server can’t be reached. What you typed is still here.");
});
document.addEventListener("htmx:responseError", (event) => {
  const { xhr, requestConfig } = event.detail;
  failed = requestConfig.elt;
  say(
    xhr.getResponseHeader("X-Signed-Out")
      ? xhr.responseText
      : `Not saved: the server answered with an error (${xhr.status}). What you typed is still here.`,
  );
});
// What arrives by itself, while the page is looked at, mends nothing.
document.addEventListener("htmx:afterSwap", (event) => {
  const { elt, verb } = event.detail.requestConfig ?? {};
  if (elt === failed || verb !== "get") say("");
});
