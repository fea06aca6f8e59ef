// Draws: an element of SVG with its attributes, put into another.
export function svg(name, attributes, into) {
  const element = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) {
    if (key === "text") element.textContent = value;
    else element.setAttribute(key, value);
  }
  into?.append(element);
  return element;
}

export function button(says, into, press) {
  const element = document.createElement("button");
  element.type = "button";
  element.className = "button quiet";
  element.textContent = says;
  if (press) element.addEventListener("click", press);
  into.append(element);
  return element;
}
