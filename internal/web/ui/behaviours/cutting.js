// A food seen from above and from its end, on which cuts are laid by pointer or keys.
// Where the cuts lie is sent; the server cuts.
import { button, svg } from "./svg.js";

const says = { x: "across", y: "along it, upright", z: "along it, flat" };

function begin(at, food) {
  const field = at.parentElement.querySelector("input[name=drawing]");
  const state = { X: [], Y: [], Z: [] };
  let axis = "x";
  const half = food.shape === "half-ellipsoid";
  const wide =
    food.shape === "frustum" || food.shape === "cylinder" ? Math.max(food.size[1], food.end) : food.size[1];
  const high = food.shape === "frustum" || food.shape === "cylinder" ? wide : food.size[2];
  const bounds = { x: [0, food.size[0]], y: [-wide / 2, wide / 2], z: [half ? 0 : -high / 2, high / 2] };
  const scale = Math.min(420 / food.size[0], 150 / wide, 150 / high);
  const above = svg("svg", {
    viewBox: `-6 ${-80} 432 160`,
    class: "drawing-picture wide",
    role: "img",
    "aria-label": `The ${food.food} from above`,
  });
  const end = svg("svg", {
    viewBox: "-90 -90 180 180",
    class: "drawing-picture end",
    role: "img",
    "aria-label": `The ${food.food} from its end`,
  });
  const status = document.createElement("p");
  status.className = "drawing-says";
  status.setAttribute("role", "status");
  const presses = document.createElement("div");
  presses.className = "drawing-presses";
  at.append(above, end, presses, status);

  const cuts = () => state[axis.toUpperCase()];
  const lay = (mm) => {
    const [from, to] = bounds[axis];
    if (mm <= from || mm >= to || cuts().length >= 60) return;
    cuts().push(Math.round(mm * 2) / 2);
    cuts().sort((a, b) => a - b);
    draw(`A cut ${says[axis]} at ${Math.round(mm - from)} mm.`);
  };

  const axes = document.createElement("fieldset");
  axes.className = "drawing-axes";
  axes.innerHTML = "<legend>Cut</legend>";
  for (const name of ["x", "y", "z"]) {
    const label = document.createElement("label");
    const radio = document.createElement("input");
    Object.assign(radio, { type: "radio", name: "axis", value: name, checked: name === axis });
    radio.addEventListener("change", () => (axis = name));
    label.append(radio, ` ${says[name]}`);
    axes.append(label);
  }
  presses.append(axes);
  const label = document.createElement("label");
  label.textContent = "every ";
  const every = document.createElement("input");
  Object.assign(every, { inputMode: "decimal", value: food.target[0], className: "figures", size: 4 });
  label.append(every, " mm");
  presses.append(label);
  button("Lay cuts so", presses, () => {
    const step = Number(every.value.replace(",", "."));
    const [from, to] = bounds[axis];
    if (!(step >= 1)) {
      status.textContent = `“${every.value}” is no distance from 1 mm on.`;
      return;
    }
    cuts().length = 0;
    const count = Math.floor((to - from) / step);
    const start = axis === "x" ? from : from + (to - from - count * step) / 2;
    for (let i = 0; i <= count && cuts().length < 60; i++) {
      const mm = start + i * step;
      if (mm > from + 0.01 && mm < to - 0.01) cuts().push(Math.round(mm * 100) / 100);
    }
    draw(`${cuts().length} cuts ${says[axis]}.`);
  });
  button("One cut in the middle", presses, () => lay((bounds[axis][0] + bounds[axis][1]) / 2));
  button("Take these cuts away", presses, () => {
    cuts().length = 0;
    draw("Taken away.");
  });

  const where = (picture, event) => {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(picture.getScreenCTM().inverse());
    return [p.x / scale, p.y / scale];
  };
  above.addEventListener("click", (event) => {
    const [x, y] = where(above, event);
    if (axis === "x") lay(x);
    else if (axis === "y") lay(y);
  });
  end.addEventListener("click", (event) => {
    const [y, z] = where(end, event);
    if (axis === "y") lay(y);
    else if (axis === "z") lay(half ? high / 4 - z : -z);
  });

  function outline(picture, view) {
    const l = food.size[0] * scale;
    const w = (wide * scale) / 2;
    const h = (high * scale) / 2;
    if (view === "end") {
      if (food.shape === "box")
        return svg("rect", { x: -w, y: -h, width: 2 * w, height: 2 * h, class: "food" }, picture);
      if (food.shape === "shell") {
        const t = food.wall * scale;
        svg("rect", { x: -w, y: -h, width: 2 * w, height: 2 * h, class: "food" }, picture);
        return svg(
          "rect",
          { x: -w + t, y: -h + t, width: 2 * (w - t), height: 2 * (h - t), class: "hollow" },
          picture,
        );
      }
      if (half)
        return svg("path", { d: `M${-w} ${h / 2}A${w} ${h} 0 0 1 ${w} ${h / 2}z`, class: "food" }, picture);
      return svg("ellipse", { rx: w, ry: h, class: "food" }, picture);
    }
    if (food.shape === "frustum") {
      const a = (food.size[1] * scale) / 2;
      const b = (food.end * scale) / 2;
      return svg("path", { d: `M0 ${-a}L${l} ${-b}V${b}L0 ${a}z`, class: "food" }, picture);
    }
    if (food.shape === "ellipsoid" || half)
      return svg("ellipse", { cx: l / 2, rx: l / 2, ry: w, class: "food" }, picture);
    return svg("rect", { x: 0, y: -w, width: l, height: 2 * w, class: "food" }, picture);
  }

  function draw(text) {
    above.replaceChildren();
    end.replaceChildren();
    outline(above, "above");
    outline(end, "end");
    const w = (wide * scale) / 2 + 6;
    const h = (high * scale) / 2 + 6;
    for (const x of state.X) svg("path", { d: `M${x * scale} ${-w}v${2 * w}`, class: "cut" }, above);
    for (const y of state.Y) {
      svg("path", { d: `M0 ${y * scale}h${food.size[0] * scale}`, class: "cut" }, above);
      svg("path", { d: `M${y * scale} ${-h}v${2 * h}`, class: "cut" }, end);
    }
    for (const z of state.Z)
      svg("path", { d: `M${-w} ${(half ? high / 4 - z : -z) * scale}h${2 * w}`, class: "cut" }, end);
    field.value = JSON.stringify(state);
    status.textContent = text;
  }
  draw("No cut yet. Press on the food, or lay cuts every so many millimetres.");
  field.value = "";
}

const place = document.querySelector("[data-drawing] [data-cut]");
if (place) begin(place, JSON.parse(place.closest("[data-drawing]").dataset.drawing));
