// Lists that are ticked. A tick shows at once, is sent at once, and shows on every
// other open list; without a network it waits on the device, on every page of the
// application, and is sent when the network comes back. Each has a number of its
// own, so that one that is sent twice counts once.
const store = "fresh-apron-ticks";
const again = 5000; // milliseconds
let sending = false;

function waiting() {
  try {
    return JSON.parse(localStorage.getItem(store)) ?? [];
  } catch {
    return [];
  }
}

function keep(ticks) {
  localStorage.setItem(store, JSON.stringify(ticks));
}

// crypto.randomUUID is there on secure addresses only, and a phone in the store
// room reaches the school's own server without.
function press() {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = (b[6] & 0x0f) | 0x40;
  b[8] = (b[8] & 0x3f) | 0x80;
  const hex = [...b].map((n) => n.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

const forms = () => document.querySelectorAll("form[data-tick]");

function show(form, done, by) {
  form.querySelector(".tick").setAttribute("aria-pressed", done);
  form.querySelector("[data-by]").textContent = done ? (by ?? "") : "";
}

function say() {
  const place = document.querySelector("[data-waiting]");
  if (!place) return;
  const n = waiting().length;
  place.hidden = n === 0;
  place.textContent = `${n === 1 ? "1 tick waits" : `${n} ticks wait`} on this device for the network.`;
}

// What waits here counts before what the server says.
function apply(ticks) {
  const own = new Map(waiting().map((t) => [`${t.list}\n${t.line}`, t]));
  for (const form of forms()) {
    const { list, line } = form.dataset;
    const mine = own.get(`${list}\n${line}`);
    const theirs = ticks.find((t) => t.list === list && t.line === line);
    if (mine) show(form, mine.done);
    else if (theirs) show(form, theirs.done, theirs.by);
  }
}

async function send() {
  const ticks = waiting();
  if (sending || ticks.length === 0) return;
  sending = true;
  try {
    const answer = await fetch("/prepare/ticks", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(ticks.slice(0, 200)),
      redirect: "error",
    });
    if (answer.ok || answer.status === 422) {
      const sent = new Set(ticks.slice(0, 200).map((t) => t.press));
      keep(waiting().filter((t) => !sent.has(t.press)));
    }
    if (answer.status === 422) {
      const notice = document.getElementById("notice");
      notice.textContent = "A list that was ticked is gone: its ticks were not kept. Load the page again.";
      notice.hidden = false;
    }
  } catch {
    // The network is away: what waits is sent later.
  }
  sending = false;
  say();
}

document.addEventListener("submit", (event) => {
  const form = event.target.closest?.("form[data-tick]");
  if (!form) return;
  event.preventDefault();
  const done = form.querySelector(".tick").getAttribute("aria-pressed") !== "true";
  show(form, done);
  keep([
    ...waiting(),
    {
      list: form.dataset.list,
      line: form.dataset.line,
      done,
      made: new Date().toISOString(),
      press: press(),
    },
  ]);
  say();
  send();
});

globalThis.addEventListener("online", send);
setInterval(send, again);
apply([]);
say();
send();

const lists = document.querySelector("[data-ticks]")?.dataset.ticks;
if (lists) {
  const stream = new EventSource(`/prepare/stream?${lists}`);
  stream.addEventListener("ticks", (event) => apply(JSON.parse(event.data) ?? []));
  globalThis.addEventListener("pagehide", () => stream.close());
}
