// Lets things on a room's floor be dragged, or moved with the arrow keys. The
// fields of the form hold where they stand; the drawing follows them.
const step = 10;

function start(form) {
  const svg = form.querySelector("svg.floor");
  const says = form.querySelector("[data-floor-says]");
  const field = (name, n) => form.elements.namedItem(`${name}-${n}`);
  const at = (n) => ({ x: Number(field("x", n).value), y: Number(field("y", n).value) });

  function place(group, x, y) {
    const n = group.dataset.item;
    const rect = group.querySelector("rect");
    const width = Number(form.elements.width.value) - Number(field("w", n).value);
    const height = Number(form.elements.height.value) - Number(field("h", n).value);
    x = Math.round(Math.min(Math.max(0, x), width) / 5) * 5;
    y = Math.round(Math.min(Math.max(0, y), height) / 5) * 5;
    for (const text of group.querySelectorAll("text")) {
      text.setAttribute("x", Number(text.getAttribute("x")) + x - Number(rect.getAttribute("x")));
      text.setAttribute("y", Number(text.getAttribute("y")) + y - Number(rect.getAttribute("y")));
    }
    rect.setAttribute("x", x);
    rect.setAttribute("y", y);
    field("x", n).value = x;
    field("y", n).value = y;
    says.textContent = `${field("name", n).value}: ${x} cm from the left, ${y} cm from the top`;
  }

  svg.addEventListener("keydown", (event) => {
    const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    const group = event.target.closest("[data-item]");
    if (!move || !group) return;
    event.preventDefault();
    const far = event.shiftKey ? 5 * step : step;
    const { x, y } = at(group.dataset.item);
    place(group, x + move[0] * far, y + move[1] * far);
  });

  svg.addEventListener("pointerdown", (event) => {
    const group = event.target.closest("[data-item]");
    if (!group) return;
    const point = (e) => new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const from = point(event);
    const { x, y } = at(group.dataset.item);
    const drag = (e) => place(group, x + point(e).x - from.x, y + point(e).y - from.y);
    svg.setPointerCapture(event.pointerId);
    svg.addEventListener("pointermove", drag);
    svg.addEventListener("pointerup", () => svg.removeEventListener("pointermove", drag), { once: true });
  });

  form.addEventListener("change", (event) => {
    const n = /^[xy]-(\d+)$/.exec(event.target.name)?.[1];
    if (n === undefined) return;
    const { x, y } = at(n);
    place(svg.querySelector(`[data-item="${n}"]`), x, y);
  });
}

document.querySelectorAll("form[data-floor]").forEach(start);
