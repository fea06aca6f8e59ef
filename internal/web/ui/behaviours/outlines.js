// The pieces that were found on a photograph, outlined over it: what is doubtful is
// dropped, joined or split before anything is worked out. The photograph stays on the
// device; it is only measured elsewhere.
import { button } from "./svg.js";

const form = document.querySelector("form[data-outlines]");
if (form) form.querySelector("input[type=file]").addEventListener("change", look);

async function look(event) {
  const [file] = event.target.files;
  const place = form.querySelector("[data-found]");
  place.replaceChildren();
  if (!file) return;
  const says = document.createElement("p");
  says.setAttribute("role", "status");
  says.textContent = "Looking for the pieces …";
  place.append(says);
  let found;
  try {
    const answer = await fetch(form.action, {
      method: "POST",
      headers: { Accept: "application/json" },
      body: new FormData(form),
    });
    found = await answer.json();
    if (!answer.ok) {
      says.textContent = found[0]?.Says ?? "It could not be measured.";
      return;
    }
  } catch {
    says.textContent = "It could not be measured: there is no network. It is still chosen.";
    return;
  }
  outline(place, says, await createImageBitmap(file), found.pieces, found.mm_per_px, event.target);
}

function outline(place, says, image, pieces, mm, input) {
  const canvas = document.createElement("canvas");
  const scale = Math.min(1, 900 / image.width);
  canvas.width = image.width * scale;
  canvas.height = image.height * scale;
  canvas.className = "outlines";
  canvas.tabIndex = 0;
  const pen = canvas.getContext("2d");
  const chosen = new Set();
  const list = document.createElement("ul");
  list.className = "outline-list";

  const corners = ({ centre, size, angle }) => {
    const [long, wide] = size.map((side) => (side / mm / 2) * scale);
    const turn = (angle * Math.PI) / 180;
    return [
      [long, wide],
      [-long, wide],
      [-long, -wide],
      [long, -wide],
    ].map(([x, y]) => [
      centre[0] * scale + x * Math.cos(turn) - y * Math.sin(turn),
      centre[1] * scale + x * Math.sin(turn) + y * Math.cos(turn),
    ]);
  };

  function draw() {
    pen.drawImage(image, 0, 0, canvas.width, canvas.height);
    list.replaceChildren();
    pieces.forEach((piece, i) => {
      pen.beginPath();
      for (const [x, y] of corners(piece)) pen.lineTo(x, y);
      pen.closePath();
      pen.lineWidth = chosen.has(piece) ? 6 : 3;
      pen.setLineDash(piece.doubtful ? [8, 6] : []);
      pen.strokeStyle = piece.doubtful ? "#9c1f3a" : "#1e2a2f";
      pen.stroke();
      const item = document.createElement("li");
      const label = document.createElement("label");
      const box = document.createElement("input");
      Object.assign(box, { type: "checkbox", checked: chosen.has(piece) });
      box.addEventListener("change", () => {
        if (box.checked) chosen.add(piece);
        else chosen.delete(piece);
        draw();
      });
      label.append(
        box,
        ` ${i + 1}: ${piece.size.map((side) => side.toFixed(1)).join(" × ")} mm${piece.doubtful ? ", doubtful" : ""}`,
      );
      item.append(label);
      list.append(item);
    });
    const doubtful = pieces.filter((piece) => piece.doubtful).length;
    says.textContent = `${pieces.length} pieces, ${doubtful} of them doubtful (dashed). Choose what is wrong, on the picture or in the list, and mend it.`;
  }

  canvas.addEventListener("click", (event) => {
    const box = canvas.getBoundingClientRect();
    const x = ((event.clientX - box.left) * canvas.width) / box.width / scale;
    const y = ((event.clientY - box.top) * canvas.height) / box.height / scale;
    const near = pieces.toSorted(
      (a, b) => Math.hypot(a.centre[0] - x, a.centre[1] - y) - Math.hypot(b.centre[0] - x, b.centre[1] - y),
    )[0];
    if (!near || Math.hypot(near.centre[0] - x, near.centre[1] - y) > near.size[0] / mm) return;
    if (chosen.has(near)) chosen.delete(near);
    else chosen.add(near);
    draw();
  });

  const presses = document.createElement("div");
  presses.className = "drawing-presses";
  const replace = (make) => {
    pieces = [...pieces.filter((piece) => !chosen.has(piece)), ...make([...chosen])];
    chosen.clear();
    draw();
  };
  button("Drop", presses, () => replace(() => []));
  button("Split in two", presses, () =>
    replace((old) =>
      old.flatMap((piece) => {
        const turn = (piece.angle * Math.PI) / 180;
        const off = piece.size[0] / mm / 4;
        const half = piece.size[0] / 2;
        const size = half >= piece.size[1] ? [half, piece.size[1]] : [piece.size[1], half];
        const angle = half >= piece.size[1] ? piece.angle : (piece.angle + 90) % 180;
        return [-1, 1].map((side) => ({
          size,
          angle,
          doubtful: false,
          centre: [
            piece.centre[0] + side * off * Math.cos(turn),
            piece.centre[1] + side * off * Math.sin(turn),
          ],
        }));
      }),
    ),
  );
  button("Join", presses, () =>
    replace((old) => {
      if (old.length < 2) return old;
      // Along the first of them, round them all.
      const turn = (old[0].angle * Math.PI) / 180;
      const at = old.flatMap((piece) =>
        corners(piece).map(([x, y]) => [
          (x * Math.cos(turn) + y * Math.sin(turn)) / scale,
          (y * Math.cos(turn) - x * Math.sin(turn)) / scale,
        ]),
      );
      const [u, v] = [0, 1].map((axis) => at.map((p) => p[axis]));
      const [u0, u1, v0, v1] = [Math.min(...u), Math.max(...u), Math.min(...v), Math.max(...v)];
      const [cu, cv] = [(u0 + u1) / 2, (v0 + v1) / 2];
      const along = u1 - u0 >= v1 - v0;
      return [
        {
          size: [Math.max(u1 - u0, v1 - v0) * mm, Math.min(u1 - u0, v1 - v0) * mm],
          angle: (old[0].angle + (along ? 0 : 90)) % 180,
          doubtful: false,
          centre: [cu * Math.cos(turn) - cv * Math.sin(turn), cu * Math.sin(turn) + cv * Math.cos(turn)],
        },
      ];
    }),
  );
  button("Take these pieces", presses, () => {
    form.querySelector("textarea[name=pieces]").value = pieces
      .map(({ size: [long, wide] }) => `${long.toFixed(1)} ${wide.toFixed(1)} ${wide.toFixed(1)}`)
      .join("\n");
    input.value = "";
    place.replaceChildren();
    form.querySelector("textarea[name=pieces]").focus();
  });
  place.append(canvas, presses, list);
  draw();
}
