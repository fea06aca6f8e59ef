import { test as base, expect } from "@playwright/test";
import axe from "axe-core";
import { HtmlValidate, FileSystemConfigLoader } from "html-validate";

const validator = new HtmlValidate(new FileSystemConfigLoader());

// Every test fails on an error in the browser's console: a refused script, a
// fault of the server or of our own modules. Refusals by the server, and
// requests that were not answered because the server is away or the page was
// left, are what some tests are about.
async function watched(page, use) {
  const errors = [];
  const said = (message) => {
    const expected = /status of 4\d\d|net::ERR_|^htmx:/.test(message.text());
    if (message.type() === "error" && !expected) errors.push(`${message.text()} (${message.location().url})`);
  };
  const broke = (error) => errors.push(String(error));
  page.on("console", said).on("pageerror", broke);
  await use(page);
  page.off("console", said).off("pageerror", broke);
  expect(errors, "errors in the browser's console").toEqual([]);
}

export const test = base.extend({ page: ({ page }, use) => watched(page, use) });

// looking is test for what only looks: all of a worker look through one window,
// which takes a third of the time of a new one for each.
export const looking = base.extend({
  window: [
    async ({ browser }, use, { project }) => {
      const { baseURL, storageState, viewport, locale, timezoneId } = project.use;
      const context = await browser.newContext({ baseURL, storageState, viewport, locale, timezoneId });
      await use(await context.newPage());
      await context.close();
    },
    { scope: "worker" },
  ],
  page: ({ window }, use) => watched(window, use),
});

export { expect };

// wellMade checks what the server sends as HTML, and what the browser shows
// against WCAG 2.2 AA.
export async function wellMade(page) {
  const response = await page.request.get(page.url(), { failOnStatusCode: false });
  const report = await validator.validateString(await response.text(), { extends: [] });
  const faults = report.results.flatMap((r) => r.messages.map((m) => `${m.line}: ${m.ruleId}: ${m.message}`));
  expect(faults, `HTML of ${page.url()}`).toEqual([]);
  await page.evaluate(axe.source);
  expect(await page.evaluate(violations), `accessibility of ${page.url()}`).toEqual([]);
}

// violations returns what is not as WCAG 2.2 AA asks of the page that it runs in.
// Contrast, which takes longest, is looked at once for all that is coloured and set
// alike, as its surroundings are, unless it may lie on top of something else.
async function violations() {
  const looks = new Set();
  const repeated = [];
  // alike reports whether all in an element, and itself, look like what was there before.
  // Grounds are what it stands on.
  const alike = (element, grounds) => {
    const s = document.defaultView.getComputedStyle(element);
    const ground = [s.backgroundColor, s.backgroundImage, s.opacity, s.filter].join();
    if (ground !== "rgba(0, 0, 0, 0),none,1,none") grounds += `|${ground}`;
    if (!["static", "relative"].includes(s.position)) grounds += `|${looks.size}`;
    const look = [grounds, s.color, s.fontSize, s.fontWeight, s.textShadow].join("|");
    const before = looks.has(look);
    looks.add(look);
    const inside = [...element.children].map((child) => [child, alike(child, grounds)]);
    if (before && inside.every(([, again]) => again)) return true;
    repeated.push(...inside.filter(([, again]) => again).map(([child]) => child));
    return false;
  };
  alike(document.body, "");
  const tags = ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa", "best-practice"];
  const contrast = "color-contrast";
  const found = [
    // All bars of a picture come from one template: the first stands for them.
    await axe.run(
      { exclude: [[".timeline .hit ~ .hit"]] },
      { runOnly: tags, rules: { [contrast]: { enabled: false } }, resultTypes: ["violations"] },
    ),
    await axe.run(
      { exclude: repeated },
      { runOnly: { type: "rule", values: [contrast] }, resultTypes: ["violations"] },
    ),
  ];
  return found.flatMap((f) => f.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target).join(", ")}`));
}

// plan fills in the form for a new lesson and sends it.
export async function plan(page, { dish, klass, period, work = "In pairs" }) {
  await page.goto("/lessons/new");
  await page.getByRole("radio", { name: dish }).check();
  await page.getByLabel("Class", { exact: true }).selectOption({ label: klass });
  await page.getByLabel("Period", { exact: true }).selectOption({ label: period });
  await page.getByRole("radio", { name: work }).check();
  await page.getByRole("button", { name: "See whether it fits" }).click();
  await expect(page.locator("#figure")).toBeVisible();
}

// openFact opens one of the facts of a lesson: class, size, period, room, menu,
// spare or phases.
export async function openFact(page, name) {
  const fact = page.locator(`details:has(> #fact-${name})`);
  if (!(await fact.evaluate((e) => e.open))) await page.locator(`#fact-${name}`).click();
}

// replanned waits until htmx has put the new plan in place.
export async function replanned(page, act) {
  const answer = page.waitForResponse((r) => r.request().method() === "POST");
  await act();
  const response = await answer;
  await response.finished();
  return response.status();
}

export const tartlets = {
  dish: /Leek tartlets/,
  klass: "8 Hazel, 24 learners",
  period: "Period 3, 11:30–12:35",
};
