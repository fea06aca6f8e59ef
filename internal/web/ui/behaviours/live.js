// The screens of a lesson that runs: what has changed arrives as a stream; clock and
// timers go on by themselves; presses are kept on the device until they have been
// sent, each with a number of its own.
const key = "fresh-apron-presses";
const again = 3000; // milliseconds
const refused = 15_000; // after which the page is asked for again
const old = 8000; // after which a screen says how old it is
const live = document.querySelector("[data-live]");

function waiting() {
  try {
    return JSON.parse(localStorage.getItem(key)) ?? [];
  } catch {
    return [];
  }
}

function keep(presses) {
  localStorage.setItem(key, JSON.stringify(presses));
  const says = document.querySelector("[data-waiting-presses]");
  if (!says) return;
  says.hidden = presses.length === 0;
  says.textContent = `${presses.length} not sent yet`;
}

function number() {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = (b[6] & 0x0f) | 0x40;
  b[8] = (b[8] & 0x3f) | 0x80;
  const hex = [...b].map((n) => n.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

let sending = false;

async function send() {
  const presses = waiting();
  if (sending || presses.length === 0) return;
  sending = true;
  try {
    const { to } = presses[0];
    const batch = presses.filter((p) => p.to === to).slice(0, 50);
    const answer = await fetch(to, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(batch.map((p) => p.event)),
      redirect: "error",
    });
    if (answer.ok || (answer.status >= 400 && answer.status < 500)) {
      const ids = new Set(batch.map((p) => p.event.id));
      keep(waiting().filter((p) => !ids.has(p.event.id)));
    }
    if (answer.status === 422) {
      const [first] = await answer.json();
      say(first?.Says ?? "");
    }
  } catch {
    // The network is away: what waits is sent later.
  }
  sending = false;
}

function say(text) {
  const notice = document.getElementById("notice");
  if (!notice || !text) return;
  notice.textContent = text;
  notice.hidden = false;
}

// A bench goes on by itself while the server is away.
function moveOn(form) {
  const step = form.closest(".bench-step");
  step?.classList.remove("current");
  step?.classList.add("over");
  document.querySelector(".bench-step.to-come:not(.over)")?.classList.add("current");
  keepPage();
}

// What was pressed and has not been sent yet is neither on a page that was kept before it nor on
// what comes from a server that has not heard of it: it is done again.
function redo() {
  for (const { to, event } of waiting()) {
    const form = document.querySelector(".bench-step.current form[data-moves]");
    if (form?.getAttribute("action") !== to) continue;
    if ([...new FormData(form)].every(([name, value]) => event[name] === value)) moveOn(form);
  }
}

document.addEventListener("submit", (event) => {
  const form = event.target.closest?.("form[data-press]");
  if (!form) return;
  event.preventDefault();
  document.getElementById("notice")?.setAttribute("hidden", "");
  const fields = Object.fromEntries(new FormData(form));
  const e = { id: number(), said_at: new Date(Date.now() + ahead).toISOString() };
  for (const [name, value] of Object.entries(fields)) {
    if (name === "view") continue;
    if (["minutes", "celsius", "number"].includes(name)) {
      e[name] = value.trim() === "" ? NaN : Number(value.replace(",", "."));
      if (Number.isNaN(e[name])) {
        say(`“${value}” is no number.`);
        return;
      }
    } else if (name === "unit" && value.includes("/")) [e.equipment, e.unit] = value.split("/");
    else e[name] = value;
  }
  keep([...waiting(), { to: form.getAttribute("action"), event: e }]);
  if ("moves" in form.dataset) moveOn(form);
  form.querySelector("button")?.setAttribute("disabled", "");
  form.reset();
  send();
});

// A page that was kept says how old it is.
let heard = Number(live?.dataset.heard) || Date.now();
let minute = Number(live?.dataset.minute ?? document.querySelector("[data-minute]")?.dataset.minute) || 0;
let speed = Number(live?.dataset.speed) || 1;
let ahead = 0; // of the server's clock, milliseconds

// What somebody has opened, or begun to write or to press, outlives what arrives.
function swap(html) {
  const writes =
    live.contains(document.activeElement) && document.activeElement.matches("input, select, textarea");
  if (writes || pressing) {
    later = html;
    return;
  }
  later = undefined;
  const opened = [...live.querySelectorAll("details[open] > summary")].map((s) => s.textContent);
  const written = [...live.querySelectorAll("input[id]:not([type=file]), select[id]")].map((field) => [
    field.id,
    field.value,
  ]);
  const chosen = [...live.querySelectorAll("input[type=file][id]")]; // a file can't be put into another field
  const focus = document.activeElement?.getAttribute?.("aria-label");
  live.innerHTML = html;
  for (const summary of live.querySelectorAll("details > summary"))
    if (opened.includes(summary.textContent)) summary.parentElement.open = true;
  for (const field of chosen) document.getElementById(field.id)?.replaceWith(field);
  for (const [id, value] of written) {
    const field = document.getElementById(id);
    if (field && (field.matches("input") || field.querySelector(`option[value="${CSS.escape(value)}"]`)))
      field.value = value;
  }
  if (focus) live.querySelector(`[aria-label="${CSS.escape(focus)}"]`)?.focus({ preventScroll: true });
  redo();
  if (document.body.matches(".aloud")) readAloud();
  keepPage();
}

let said = "";

// The step now is read aloud by the browser's own voice: once by itself, again when
// asked for.
function readAloud(again) {
  const step = document.querySelector(".bench-step.current");
  if (!step || !globalThis.speechSynthesis || (step.dataset.step === said && !again)) return;
  said = step.dataset.step;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(step.innerText.split("\n").slice(0, 6).join(". ")));
}

// What a bench's screen shows is kept on the device, so that it opens again without
// a network, with its timers.
const bench = globalThis.caches && navigator.serviceWorker && document.body.matches(".bench-screen") && live;

let keeping = Promise.resolve(); // one page after another: the last stays

function keepPage() {
  if (!bench) return;
  live.dataset.heard = heard;
  live.dataset.minute = minute;
  live.dataset.speed = speed;
  const page = new Response(`<!doctype html>${document.documentElement.outerHTML}`, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": "default-src 'self'; img-src 'self' data:",
    },
  });
  keeping = keeping.then(() => store(page)).catch(() => {}); // a full device keeps what it has
}

async function store(page) {
  const kept = await caches.open("bench");
  for (const { url } of await kept.keys()) {
    const { pathname } = new URL(url);
    if (pathname.startsWith("/bench/") && pathname !== location.pathname) await kept.delete(url);
  }
  await kept.put(location.pathname, page);
}

if (bench) {
  navigator.serviceWorker.register("/bench/worker.js");
  const parts = [...document.querySelectorAll("link[href], script[src]")].map(
    (part) => part.href ?? part.src,
  );
  const loaded = performance.getEntriesByType("resource").map((entry) => entry.name);
  caches
    .open("bench")
    .then((kept) =>
      kept.addAll(
        [...new Set([...parts, ...loaded])].filter((url) => new URL(url).pathname.startsWith("/assets/")),
      ),
    )
    .catch(() => {}); // without a network they are there already
}

// A photograph is made small before it is sent: it takes less time, and says nothing of
// where it was taken.
async function smaller(file) {
  const longest = 1280;
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, longest / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
  return new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.85));
}

document.addEventListener("change", (event) => event.target.closest?.("form[data-picture]")?.requestSubmit());
document.addEventListener("submit", async (event) => {
  const form = event.target.closest?.("form[data-picture]");
  if (!form) return;
  event.preventDefault();
  const body = new FormData(form);
  const file = body.get("file");
  body.set("file", await smaller(file).catch(() => file), "picture.jpg");
  try {
    const answer = await fetch(form.getAttribute("action"), {
      method: "POST",
      headers: { Accept: "application/json" },
      body,
    });
    if (answer.status === 422) return say((await answer.json())[0]?.Says ?? "");
    if (!answer.ok) throw new Error(answer.statusText);
    form.reset();
    document.activeElement?.blur();
  } catch {
    say(
      "The picture is not sent: there is no network. It is still chosen here; send it again when the network is back.",
    );
  }
});

let later;
const settle = 300; // milliseconds after which what was left or pressed has had its effect
const longest = 10_000; // that a press holds up what arrives, if its end is not heard
let pressing; // the timer that ends it

function release() {
  pressing = undefined;
  if (later !== undefined) swap(later);
}

function press(milliseconds) {
  clearTimeout(pressing);
  pressing = setTimeout(release, milliseconds);
}

live?.addEventListener("focusout", () => setTimeout(() => later !== undefined && swap(later), settle));
// A button that is put in the place of another between down and up is not pressed.
live?.addEventListener("pointerdown", () => press(longest));
for (const end of ["pointerup", "pointercancel"])
  document.addEventListener(end, () => pressing && press(settle));

function clock() {
  const age = document.querySelector("[data-age]");
  if (age) {
    const stale = Date.now() - heard;
    age.hidden = stale < old;
    age.textContent = `What stands here is ${Math.round(stale / 1000)} s old.`;
  }
  if (!live) return;
  const now = minute + ((Date.now() - heard) / 60_000) * speed;
  for (const timer of document.querySelectorAll("[data-until]")) {
    const left = Number(timer.dataset.until) - now;
    const whole = Math.max(0, left);
    const text = `${Math.floor(whole)}:${String(Math.floor((whole % 1) * 60)).padStart(2, "0")}`;
    if (timer.textContent !== text) timer.textContent = text;
    if (left > 0) ran.add(timer.dataset.timer);
    else if (ran.delete(timer.dataset.timer)) ring();
  }
}

// Timers that have been seen to run: each rings once, also after a sleep.
const ran = new Set();

let audio;
document.addEventListener("pointerdown", () => (audio ??= new AudioContext()), { once: true });

function ring() {
  navigator.vibrate?.([200, 100, 200]);
  if (!audio) return;
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  tone.frequency.value = document.body.matches(".bench-screen") ? 880 : 587;
  volume.gain.setValueAtTime(0.2, audio.currentTime);
  volume.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 1.2);
  tone.connect(volume).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 1.2);
}

if (live) {
  const stream = new EventSource(live.dataset.live);
  stream.addEventListener("state", (event) => {
    const message = JSON.parse(event.data);
    heard = Date.now();
    ({ minute, speed } = message);
    ahead = message.clock ? message.clock - heard : 0;
    if (message.html !== undefined) swap(message.html);
    clock();
  });
  stream.addEventListener("ways", (event) => {
    document.body.className = `bench-screen ${event.data}`;
    if (document.body.matches(".aloud")) readAloud();
  });
  stream.addEventListener("begun", () => location.reload());
  // What the server has refused is not asked for again: the page itself says why.
  stream.addEventListener("error", () => {
    if (stream.readyState === EventSource.CLOSED) setTimeout(() => location.reload(), refused);
  });
  globalThis.addEventListener("pagehide", () => stream.close());
  setInterval(clock, 1000);
  document
    .querySelector("[data-large]")
    ?.addEventListener("click", () => document.body.classList.toggle("large"));
  document
    .querySelector("[data-contrast]")
    ?.addEventListener("click", () => document.body.classList.toggle("contrast"));
  const aloud = document.querySelector("[data-aloud]");
  if (aloud && !globalThis.speechSynthesis) aloud.hidden = true;
  aloud?.addEventListener("click", () => readAloud(true));
}

// The arrows turn the pages of a demonstration.
document.addEventListener("keydown", (event) => {
  if (event.target.matches?.("input, select, textarea")) return;
  const turn = { ArrowRight: "[data-next]", ArrowLeft: "[data-back]" }[event.key];
  if (turn) document.querySelector(turn)?.click();
});

keep(waiting());
redo();
send();
setInterval(send, again);
globalThis.addEventListener("online", send);
