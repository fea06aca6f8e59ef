// The mark of now goes through the picture of a lesson of today. The server says
// which minute of the lesson it was when the page was made.
const namespace = "http://www.w3.org/2000/svg";
const every = 15_000; // milliseconds
const top = 6; // above the checkpoints

let loaded = performance.now();

function draw(picture, minute) {
  picture.querySelector(".now-mark")?.remove();
  const { left, minute: wide, last, low } = picture.dataset;
  if (minute < 0 || minute > Number(last)) return;
  const x = Number(left) + minute * Number(wide);
  const mark = document.createElementNS(namespace, "g");
  mark.setAttribute("class", "now-mark");
  const line = document.createElementNS(namespace, "path");
  line.setAttribute("d", `M${x} ${top}V${low}`);
  const word = document.createElementNS(namespace, "text");
  word.setAttribute("x", x + 5);
  word.setAttribute("y", Number(low) - 6);
  word.textContent = "now";
  mark.append(line, word);
  picture.append(mark);
}

function mark() {
  const here = document.querySelector("[data-now]");
  if (!here) return;
  const minute = Number(here.dataset.now) + (performance.now() - loaded) / 60_000;
  for (const picture of here.querySelectorAll("svg[data-picture]")) draw(picture, minute);
}

mark();
setInterval(mark, every);
document.addEventListener("htmx:afterSettle", (event) => {
  // A whole lesson that has arrived brings its own minute with it.
  if (event.target.matches?.("#lesson, article")) loaded = performance.now();
  mark();
});
