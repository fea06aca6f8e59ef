import { expect, test, wellMade } from "./site.js";

// The lesson that is tight, and one of its steps.
const tartlets = "/lessons/2";
const steps = 'svg a[data-step]:not([data-row="-1"])';

test("a step is found by keyboard, explained, moved and moved back", async ({ page }) => {
  await page.goto(`${tartlets}?by=g3`);
  const first = page.locator(steps).first();
  await first.focus();
  await page.keyboard.press("ArrowRight");
  await expect(first).not.toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.locator("#explain-head")).toContainText("Bench 3: ");
  await expect(page.locator("#explain-head")).toBeFocused();
  await expect(page).toHaveURL(/steps\?at=g3/);
  await wellMade(page);

  const before = await page.locator("#figure").innerText();
  await page.getByRole("button", { name: "5 min later" }).click();
  await expect(page.locator(".effect")).toContainText("later than before");
  await expect(page.locator("#figure")).not.toHaveText(before);
  await expect(page.locator(".decisions")).toContainText("not before");
  await wellMade(page);

  await page.getByLabel("Time", { exact: true }).fill("soon");
  await page.getByRole("button", { name: "Plan so" }).click();
  await expect(page.locator("#explain .problem")).toContainText("“soon” is no time of day");

  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator("#figure")).toHaveText(before);
  await expect(page.locator(".effect")).toHaveCount(0);
});

test("what would help arrives, is tried, done and undone", async ({ page }) => {
  await page.goto(tartlets);
  const before = await page.locator("#figure").innerText();
  const rows = page.locator("#rescues tbody tr");
  await expect(rows.first()).toBeVisible();
  await rows.first().getByRole("link").first().click();
  await expect(page.getByText("Nothing is changed yet")).toBeVisible();
  await wellMade(page);
  await page.getByRole("link", { name: "Leave it" }).click();
  await expect(page.locator("#figure")).toHaveText(before);

  const easy = rows.filter({ has: page.getByRole("button", { name: "Do it" }) }).first();
  await easy.getByRole("button").click();
  await expect(page.locator(".effect")).toContainText("sooner than before");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator("#figure")).toHaveText(before);
});

test("two windows: the second is told, and neither loses anything", async ({ page, context }) => {
  const other = await context.newPage();
  await page.goto(tartlets);
  await other.goto(tartlets);
  await page.getByRole("button", { name: "Take it out" }).first().click();
  await expect(page.locator(".decisions")).toContainText("is out of use");
  await other.getByRole("button", { name: "Take it out" }).first().click();
  await expect(other.locator("#explain .problem")).toContainText(
    "This lesson was changed after this page was opened",
  );
  await expect(other.locator(".decisions")).toContainText("is out of use");
  await other.getByRole("button", { name: "Undo" }).click();
  await expect(other.locator(".decisions")).toHaveCount(0);
});

test("the back button leads from a step to the lesson and on", async ({ page }) => {
  await page.goto("/");
  await page.goto(tartlets);
  await page.getByRole("link", { name: "Ovens and other things" }).click();
  await expect(page.locator(".timeline")).toContainText("Oven 6");
  await page.goBack();
  await expect(page.locator(".timeline")).toContainText("12 benches");
  await page.goBack();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("November");
});

test("a lesson file is brought in and planned", async ({ page }) => {
  await page.goto("/files");
  await wellMade(page);
  await page.getByLabel("Lesson file", { exact: true }).setInputFiles("docs/formats/tartlets.lesson.json");
  await page.getByRole("button", { name: "See whether it fits" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Leek tartlets with 8 Hazel");
  await expect(page.locator(".figure")).toContainText("min left");
  await wellMade(page);
});

test("without a script every step and every way to look is a page", async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto(tartlets);
  await page.locator(steps).nth(3).click({ force: true });
  await expect(page.locator("#explain h3")).toContainText("Bench");
  await page.getByRole("link", { name: "See what would help" }).click();
  await expect(page.locator("#rescues tbody tr").first()).toBeVisible();
  await context.close();
});

test("the mark of now goes through the picture of a lesson of today", async ({ page }) => {
  await page.route("**/lessons/1", async (route) => {
    const response = await route.fetch();
    const body = (await response.text()).replace(/data-now="[^"]*"/, 'data-now="32.5"');
    await route.fulfill({ response, body });
  });
  await page.goto("/lessons/1");
  const picture = page.locator("svg[data-picture]");
  await expect(picture.locator(".now-mark text")).toHaveText("now");
  // 32.5 minutes of 65 are half way from the door to the bell.
  const at = async (selector) => (await picture.locator(selector).first().boundingBox()).x;
  const [now, bell] = [await at(".now-mark path"), await at(".bell")];
  const door = (await picture.locator(".band").first().boundingBox()).x;
  expect(Math.abs((now - door) / (bell - door) - 0.5)).toBeLessThan(0.02);
  await page.goto("/lessons/4");
  await expect(page.locator("svg[data-picture]")).toBeVisible();
  await expect(page.locator(".now-mark")).toHaveCount(0);
});
