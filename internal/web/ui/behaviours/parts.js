// On a narrow screen a long page begins with the way to its parts: its
// headings, where there are several of them.
const narrow = "(width < 48rem)";
const longest = 4000; // pixels that are scrolled through without help
const few = 2;

function partsOf(main) {
  return [...main.querySelectorAll("h2, .day-name")].filter(
    (h) => h.textContent.trim() && !h.closest("[hidden], details:not([open]), dialog, .parts"),
  );
}

function label(heading) {
  return heading.textContent.replace(/\s+/g, " ").trim();
}

function lay() {
  const main = document.querySelector("#main, main");
  if (!main || main.querySelector(".parts") || !matchMedia(narrow).matches) return;
  if (document.documentElement.scrollHeight <= longest) return;
  const headings = partsOf(main);
  if (headings.length < few) return;
  const nav = document.createElement("nav");
  nav.className = "parts";
  nav.setAttribute("aria-label", "Parts of this page");
  headings.forEach((heading, n) => {
    heading.id ||= `part-${n + 1}`;
    const a = document.createElement("a");
    a.href = `#${heading.id}`;
    a.textContent = label(heading);
    nav.append(a);
  });
  const title = main.querySelector("h1:not(.sr)");
  const head = title?.closest(".title-row, header, .lesson-head") ?? title;
  if (head && main.contains(head)) head.after(nav);
  else main.prepend(nav);
}

lay();
document.addEventListener("htmx:afterSettle", lay);
