import { expect, openFact, plan, replanned, tartlets, test, wellMade } from "./site.js";

test("a wrong entry says what is wrong beside it and loses nothing", async ({ page }) => {
  await plan(page, tartlets);
  await openFact(page, "phases");
  expect(
    await replanned(page, async () => {
      await page.getByLabel("Phase 2: minutes").fill("80");
      await page.getByLabel("Phase 2: minutes").press("Tab");
    }),
  ).toBe(422);
  await expect(
    page.getByText("The phases at the start and the end take 97 minutes, and the period has only 65."),
  ).toBeVisible();
  await expect(page.getByLabel("Phase 2: minutes")).toHaveValue("80");
  await expect(page.locator(".fact[open] > summary")).toHaveId("fact-phases"); // what is to be mended, and nothing else
  await expect(page.locator("#figure")).toHaveText("2½ min missing"); // the plan that still stands
  await replanned(page, async () => {
    await page.getByLabel("Phase 2: minutes").fill("5");
    await page.getByLabel("Phase 2: minutes").press("Tab");
  });
  await expect(page.locator("#figure")).toHaveText("½ min left");
  await expect(page.getByRole("alert").filter({ hasText: "Not saved" })).toHaveCount(0);
});

test("too many groups for the room", async ({ page }) => {
  await page.goto("/lessons/new");
  await page.getByRole("radio", { name: /Herb scones/ }).check();
  await page.getByLabel("Class", { exact: true }).selectOption({ label: "7 Alder, 26 learners" });
  await page.getByLabel("Period", { exact: true }).selectOption({ label: "Period 2, 10:05–11:10" });
  await page.getByRole("radio", { name: "Alone" }).check();
  await page.getByRole("button", { name: "See whether it fits" }).click();
  await expect(page.getByText("26 groups need 26 places to work, and the Food Room has 24")).toBeVisible();
  await expect(page.getByRole("radio", { name: /Herb scones/ })).toBeChecked();
  await expect(page.getByLabel("Class", { exact: true })).toHaveValue(/\d+/);
  await wellMade(page);
});

test("two windows on one lesson", async ({ page, context }) => {
  await plan(page, tartlets);
  const other = await context.newPage();
  await other.goto(page.url());
  await openFact(page, "size");
  await replanned(page, () => page.getByLabel("Learners work").selectOption({ label: "In threes" }));
  await openFact(other, "period");
  const status = await replanned(other, () =>
    other.getByLabel("Period", { exact: true }).selectOption({ label: "Period 5, 14:30–15:35" }),
  );
  expect(status).toBe(409);
  await expect(other.getByRole("alert").first()).toContainText(
    "This lesson was changed after this page was opened",
  );
  await expect(other.getByRole("alert").first()).toContainText(
    "Learners work is now “In threes”, you have “In pairs”",
  );
  await replanned(other, () => other.getByRole("button", { name: "Plan again" }).click());
  await expect(other.locator(".bell-says")).toHaveText("15:35");
});

test("a form that is sent twice makes one lesson", async ({ page }) => {
  await page.goto("/");
  const before = await page.locator(".entry").count();
  await page.goto("/lessons/new");
  await page.getByRole("radio", { name: tartlets.dish }).check();
  await page.getByLabel("Class", { exact: true }).selectOption({ label: tartlets.klass });
  await page.getByLabel("Period", { exact: true }).selectOption({ label: tartlets.period });
  await page.getByRole("button", { name: "See whether it fits" }).dblclick();
  await expect(page.locator("#figure")).toBeVisible();
  await page.goto("/");
  await expect(page.locator(".entry")).toHaveCount(before + 1);
});

test("the server goes away while a teacher is typing", async ({ page }) => {
  await plan(page, tartlets);
  await page.route("**/lessons/*", (route) =>
    route.request().method() === "POST" ? route.abort() : route.continue(),
  );
  await openFact(page, "spare");
  await page.getByLabel("Spare sets").fill("3");
  await page.getByLabel("Spare sets").press("Tab");
  await expect(page.locator("#notice")).toContainText("Not saved: the server can’t be reached");
  await expect(page.getByLabel("Spare sets")).toHaveValue("3");
  await page.unroute("**/lessons/*");
  await replanned(page, () => page.getByRole("button", { name: "Plan again" }).click());
  await expect(page.locator("#notice")).toBeHidden();
  await expect(page.locator("#amounts")).toContainText("and 3 spare");
});

test("what arrives later does not hide that something was not saved", async ({ page }) => {
  let release;
  const held = new Promise((resolve) => (release = resolve));
  await page.route("**/lessons/*/rescues", async (route) => {
    await held;
    await route.continue();
  });
  await page.route("**/lessons/*", (route) =>
    route.request().method() === "POST" ? route.abort() : route.continue(),
  );
  await page.goto("/lessons/5");
  await openFact(page, "spare");
  await page.getByLabel("Spare sets").fill("2");
  await page.getByLabel("Spare sets").press("Tab");
  await expect(page.locator("#notice")).toContainText("Not saved");
  const later = page.waitForResponse("**/rescues");
  release();
  await (await later).finished();
  await expect(page.locator("[hx-trigger=load]")).toHaveCount(0);
  await expect(page.locator("#notice")).toContainText("Not saved");
});

test("addresses with nothing behind them lead on", async ({ page }) => {
  for (const address of ["/lessons/999999", "/lessons/none", "/nowhere"]) {
    const response = await page.goto(address);
    expect(response.status()).toBe(404);
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("There is nothing at this address");
    await wellMade(page);
  }
  await page.getByRole("link", { name: "To the first page" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Thursday 26 November");
});
