// Drawn instruments that behave like real ones: a scale that settles, a jug that is
// poured into and looked at from some height, spoons that come out heaped. What is in
// them is sent; whether it is right is for the server to say.
import { button, svg } from "./svg.js";

function begin(at, given) {
  const field = at.parentElement.querySelector("input[name=drawing]");
  const status = document.createElement("p");
  status.className = "drawing-says figures";
  status.setAttribute("role", "status");
  const picture = svg("svg", { viewBox: "0 0 240 200", class: "drawing-picture", "aria-hidden": "true" });
  const presses = document.createElement("div");
  presses.className = "drawing-presses";
  at.append(picture, status, presses);
  const keep = (state) => (field.value = JSON.stringify(state));
  const kinds = { scale: weigh, dial: weigh, jug: pour, spoons: fill, cups: fill };
  kinds[given.kind](given, { picture, presses, status, keep });
}

// What goes on while a button is held, by pointer or by key.
function held(element, each) {
  let frame = 0;
  let last = 0;
  const step = (now) => {
    each(Math.min(0.1, (now - last) / 1000));
    last = now;
    frame = requestAnimationFrame(step);
  };
  const on = (event) => {
    if (frame || (event.type === "keydown" && event.key !== " " && event.key !== "Enter")) return;
    event.preventDefault();
    last = performance.now();
    each(0.05); // however short
    frame = requestAnimationFrame(step);
  };
  const off = () => {
    cancelAnimationFrame(frame);
    frame = 0;
  };
  element.addEventListener("pointerdown", (event) => {
    on(event);
    element.setPointerCapture?.(event.pointerId);
  });
  element.addEventListener("keydown", on);
  // A press that is neither: what reads a screen aloud presses so.
  element.addEventListener("click", (event) => event.detail === 0 && each(0.3));
  for (const end of ["pointerup", "pointercancel", "keyup", "blur"]) element.addEventListener(end, off);
}

// A little uneven, as a hand is, and always the same.
function hand(seed) {
  let n = seed;
  return () => {
    n = (n * 1103515245 + 12345) % 2147483648;
    return 0.8 + (0.4 * n) / 2147483648;
  };
}

const range = (from, to, step) =>
  Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step);

function weigh(given, { picture, presses, status, keep }) {
  const dial = given.kind === "dial";
  const state = { bowl: dial ? 0 : given.bowl, bowl_on: dial, zero: 0, in: 0 };
  const uneven = hand(given.bowl);
  const spoonful = 12;
  let shown = 0;
  let said = "";

  const up = dial ? -50 : 0; // the dial takes more room than the display
  const above = svg("g", { transform: `translate(0 ${up})` }, picture);
  svg("path", { d: "M60 96h120M120 96v14", class: "line" }, above);
  const bowl = svg("path", { d: "M70 62q6 34 50 34t50-34z", class: "vessel" }, above);
  const heap = svg("path", { class: "filled" }, above);
  svg(
    "path",
    {
      d: `M${dial ? 46 : 52} ${110 + up}h${dial ? 148 : 136}l14 ${82 - up}H${dial ? 32 : 38}z`,
      class: "body",
    },
    picture,
  );
  let text;
  let needle;
  if (dial) {
    svg("circle", { cx: 120, cy: 128, r: 58, class: "face" }, picture);
    for (const grams of range(0, given.holds - given.resolution, given.resolution)) {
      const turn = (grams / given.holds) * 360;
      const long = grams % 50 === 0;
      svg(
        "path",
        { d: `M120 72v${long ? 9 : 5}`, class: "graduation", transform: `rotate(${turn} 120 128)` },
        picture,
      );
      if (grams % 100 === 0) {
        const angle = (turn * Math.PI) / 180;
        svg(
          "text",
          { x: 120 + 40 * Math.sin(angle), y: 132 - 40 * Math.cos(angle), class: "number", text: grams },
          picture,
        );
      }
    }
    needle = svg("path", { d: "M120 128V78", class: "needle" }, picture);
  } else {
    svg("rect", { x: 78, y: 132, width: 84, height: 34, rx: 3, class: "display" }, picture);
    text = svg("text", { x: 120, y: 156, class: "shown" }, picture);
  }

  const add = (grams) => {
    if (!state.bowl_on && grams > 0) {
      status.textContent = "There is no bowl to put it in.";
      return;
    }
    state.in = Math.max(0, Math.round((state.in + grams) * 10) / 10);
    keep(state);
  };
  if (!dial) {
    button("Bowl on or off", presses, () => {
      state.bowl_on = !state.bowl_on;
      if (!state.bowl_on) state.in = 0;
      said = ""; // that there is no bowl is no longer what is to be said
      keep(state);
    });
    button("Set to zero", presses, () => {
      state.zero = state.in + (state.bowl_on ? state.bowl : 0);
      keep(state);
    });
  }
  held(button("Pour (hold)", presses), (seconds) => add(45 * seconds));
  button("A spoonful", presses, () => add(spoonful * uneven()));
  button("A pinch", presses, () => add(1 * uneven()));
  button("A spoonful back", presses, () => add(-spoonful * uneven()));
  button("A pinch back", presses, () => add(-1 * uneven()));

  const draw = () => {
    const on = state.in + (state.bowl_on ? state.bowl : 0) - state.zero;
    shown += (on - shown) * 0.12; // it settles
    const settled = Math.abs(on - shown) < given.resolution / 4;
    const figure = Math.round((settled ? on : shown) / given.resolution) * given.resolution;
    bowl.style.display = state.bowl_on ? "" : "none";
    const high = Math.min(40, Math.sqrt(state.in) * 2);
    heap.setAttribute("d", state.in > 0 ? `M74 72q46 ${-high} 92 0q-8 24-46 24t-46-24z` : "");
    if (dial) needle.setAttribute("transform", `rotate(${(shown / given.holds) * 360} 120 128)`);
    else text.textContent = `${figure} g`;
    const says = dial
      ? settled
        ? `The needle stands ${lines(on, given.resolution)}.`
        : "The needle moves."
      : settled
        ? `The scale shows ${figure} g.`
        : "It settles.";
    if (says !== said) status.textContent = said = says;
    requestAnimationFrame(draw);
  };
  draw();
}

// Where the needle stands, in the lines that are there to be read.
function lines(grams, division) {
  const hundreds = Math.floor(grams / 100) * 100;
  const rest = (grams - hundreds) / division;
  return `${Math.round(rest * 2) / 2} lines after ${hundreds}`;
}

function pour(given, { picture, presses, status, keep }) {
  const state = { in: 0, radius: given.radius, eye: given.eye, rests: true };
  const floor = 188;
  const perMl = 158 / given.holds; // pixels
  const level = (ml) => floor - ml * perMl;
  const tooHigh = () => (Math.PI * given.radius ** 3 * Math.tan((state.eye * Math.PI) / 180)) / 1000;

  const water = svg("path", { class: "filled" }, picture);
  const top = svg("ellipse", { cx: 100, rx: 62, class: "surface" }, picture);
  svg(
    "path",
    { d: `M36 18l4 170q0 4 4 4h112q4 0 4-4l4-170M164 50q40 0 36 36t-38 40`, class: "line" },
    picture,
  );
  const marks = Math.round(given.holds / given.marks);
  for (const n of range(1, marks, 1)) {
    const long = n % Math.max(1, Math.ceil(marks / 6)) === 0;
    svg(
      "path",
      { d: `M${long ? 84 : 92} ${level(n * given.marks)}h${long ? 32 : 16}`, class: "graduation" },
      picture,
    );
    if (long)
      svg(
        "text",
        { x: 76, y: level(n * given.marks) + 3, class: "number end", text: n * given.marks },
        picture,
      );
  }

  let moving = 0;
  const move = (ml) => {
    state.in = Math.min(given.holds, Math.max(0, state.in + ml));
    moving = 1;
    state.rests = false;
    keep({ ...state, in: Math.round(state.in * 10) / 10 });
  };
  held(button("Pour (hold)", presses), (seconds) => move(70 * seconds));
  held(button("Pour slowly (hold)", presses), (seconds) => move(14 * seconds));
  held(button("Pour back (hold)", presses), (seconds) => move(-25 * seconds));
  const label = document.createElement("label");
  label.className = "drawing-eye";
  label.textContent = "Your eye, degrees above the surface ";
  const eye = document.createElement("input");
  Object.assign(eye, { type: "range", min: 0, max: 30, step: 1, value: state.eye });
  label.append(eye);
  presses.append(label);
  eye.addEventListener("input", () => {
    state.eye = Number(eye.value);
    keep({ ...state, in: Math.round(state.in * 10) / 10 });
  });

  let said = "";
  const draw = (now) => {
    moving *= 0.97;
    const rests = moving < 0.03;
    if (rests && !state.rests) {
      state.rests = true;
      keep({ ...state, in: Math.round(state.in * 10) / 10 });
    }
    // From above the far rim of the surface is seen higher on the scale.
    const seen = Math.min(given.holds, state.in + tooHigh());
    const wave = rests ? 0 : Math.sin(now / 90) * 3 * moving;
    const y = level(seen) + wave;
    const deep = 62 * Math.sin((state.eye * Math.PI) / 180);
    top.setAttribute("cy", y + deep / 2);
    top.setAttribute("ry", Math.max(0.6, deep / 2));
    top.style.display = state.in > 0 ? "" : "none";
    water.setAttribute("d", state.in > 0 ? `M38 ${y + deep / 2}L40 188h120L162 ${y + deep / 2}z` : "");
    const says = !rests
      ? "The surface moves."
      : state.in === 0
        ? "The jug is empty."
        : `From your eye it seems to stand at ${Math.round(seen / 5) * 5} ml.`;
    if (says !== said) status.textContent = said = says;
    requestAnimationFrame(draw);
  };
  requestAnimationFrame(draw);
}

const fractions = { 0.5: "½", 0.25: "¼", 0.3333333333333333: "⅓" };
const size = (n, unit) => `${fractions[n] ?? n} ${unit}`;

function fill(given, { picture, presses, status, keep }) {
  const state = { fillings: [] };
  const uneven = hand(given.bowl);
  const draw = () => {
    picture.replaceChildren();
    state.fillings.forEach((f, i) => {
      const x = 20 + (i % 5) * 44;
      const y = 60 + Math.floor(i / 5) * 60;
      const wide = 14 + 22 * Math.sqrt(f.size / Math.max(...given.set));
      const high = { level: 0, rounded: 8, heaped: 16 }[f.how];
      svg(
        "path",
        {
          d: `M${x} ${y}q${wide / 2} ${-2 * high} ${wide} 0q0 ${wide * 0.7} ${-wide / 2} ${wide * 0.7}T${x} ${y}z`,
          class: "filled",
        },
        picture,
      );
      svg(
        "path",
        { d: `M${x} ${y}h${wide}q0 ${wide * 0.7} ${-wide / 2} ${wide * 0.7}T${x} ${y}z`, class: "line" },
        picture,
      );
      svg(
        "text",
        { x: x + wide / 2, y: y + wide * 0.7 + 14, class: "number", text: size(f.size, "") },
        picture,
      );
    });
    const last = state.fillings.at(-1);
    status.textContent = state.fillings.length
      ? `${state.fillings.length} ${state.fillings.length === 1 ? "filling" : "fillings"}. The last is ${size(last.size, given.unit)}, ${last.how}.`
      : "Nothing has been filled yet.";
    keep(state);
  };
  for (const n of given.set) {
    button(`Fill ${size(n, given.unit)}`, presses, () => {
      if (state.fillings.length >= 20) return;
      state.fillings.push({ size: n, how: uneven() > 1 ? "heaped" : "rounded" });
      draw();
    });
  }
  button("Draw the back of a knife over it", presses, () => {
    if (state.fillings.length) state.fillings.at(-1).how = "level";
    draw();
  });
  button("Tip the last one back", presses, () => {
    state.fillings.pop();
    draw();
  });
  draw();
  keep({ fillings: [] });
}

// Acts are put in order by their arrows.
document.addEventListener("click", (event) => {
  const press = event.target.closest?.("[data-up], [data-down]");
  const item = press?.closest("[data-order] > li");
  if (!item) return;
  if ("up" in press.dataset) item.previousElementSibling?.before(item);
  else item.nextElementSibling?.after(item);
  press.focus();
});

const place = document.querySelector("[data-drawing] [data-instrument]");
if (place) begin(place, JSON.parse(place.closest("[data-drawing]").dataset.drawing));
