// Says so where a change could not be sent or was not taken. The form stays
// as it is, so that nothing typed is lost.
const notice = document.getElementById("notice");

function say(text) {
  if (!notice) return;
  notice.textContent = text;
  notice.hidden = text === "";
}

document.addEventListener("htmx:sendError", () =>
  say("Not saved: the server can’t be reached. What you typed is still here."),
);
document.addEventListener("htmx:responseError", (event) =>
  say(
    event.detail.xhr.getResponseHeader("X-Signed-Out")
      ? event.detail.xhr.responseText
      : `Not saved: the server answered with an error (${event.detail.xhr.status}). What you typed is still here.`,
  ),
);
document.addEventListener("htmx:afterSwap", () => say(""));
