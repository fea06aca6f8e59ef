import { expect, openFact, plan, replanned, tartlets, test, wellMade } from "./site.js";

test("home shows today's lessons and what each needs", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Thursday 26 November");
  const first = page.locator(".entry").first();
  await expect(first).toContainText("Herb scones");
  // 26 learners make 104 scones, the demonstration and a spare set 8 each:
  // 120 scones at 225 g of flour for 8, of which one bench of 8 has another.
  await expect(first).toContainText("3.15 kg self-raising flour");
  await expect(first).toContainText("in 65 min");
  await wellMade(page);
});

test("a teacher picks a dish, a class and a period and sees whether it fits, and why", async ({ page }) => {
  await plan(page, tartlets);
  // One pair: 5/1.8 + 5 + 1.5 + 5 + (5 + 8 · 0.25) + 2.5 + 0.5 + 16 + (1 + 1)
  // = 42:17; the door, the demonstration, clearing and tasting leave 40:00.
  await expect(page.locator("#figure")).toHaveText("2½ min missing");
  await expect(page.locator(".verdicts")).toContainText(
    "one bench alone takes 42 min, and the phases leave 40 min",
  );
  await expect(page.locator(".verdicts")).toContainText("24 learners in 12 pairs");
  const flour = page.getByRole("row", { name: /plain flour/ });
  await expect(flour).toContainText("150 g");
  await expect(flour).toContainText("1.8 kg"); // 12 benches
  await expect(flour).toContainText("2.1 kg"); // and the demonstration and a spare
  // 190 °C: 12 trays, two in each of six ovens.
  await page.getByRole("link", { name: "Ovens and other things" }).click();
  await expect(page.locator("rect.tray")).toHaveCount(12);
  await expect(page.locator(".bell-says")).toHaveText("12:35");
});

test("changing how it runs plans again in place", async ({ page }) => {
  await plan(page, tartlets);
  const address = page.url();
  await openFact(page, "phases");
  expect(
    await replanned(page, async () => {
      await page.getByLabel("Phase 2: minutes").fill("5");
      await page.getByLabel("Phase 2: minutes").press("Tab");
    }),
  ).toBe(200);
  await expect(page.locator("#figure")).toHaveText("½ min left"); // three minutes more: 0:43
  expect(page.url()).toBe(address);

  await page.keyboard.press("Escape");
  await openFact(page, "size");
  await replanned(page, () => page.getByLabel("Learners work").selectOption({ label: "In fours" }));
  await expect(page.locator(".verdicts")).toContainText("24 learners in 6 fours");
  await openFact(page, "period");
  await replanned(page, () =>
    page.getByLabel("Period", { exact: true }).selectOption({ label: "Double 4 and 5, 13:20–15:30" }),
  );
  await expect(page.locator(".bell-says")).toHaveText("15:30");

  await page.reload();
  await expect(page.locator(".verdicts")).toContainText("24 learners in 6 fours");
  await page.goto("/");
  await page.goBack();
  await expect(page.locator(".bell-says")).toHaveText("15:30");
});

test("by keyboard alone", async ({ page }) => {
  await page.goto("/");
  const tabTo = async (locator) => {
    for (let i = 0; i < 60; i++) {
      if (await locator.evaluate((e) => e === document.activeElement)) return;
      await page.keyboard.press("Tab");
    }
    throw new Error("not reached by Tab");
  };
  await page.keyboard.press("Tab");
  await expect(page.getByRole("link", { name: "To the content" })).toBeFocused();
  await tabTo(page.getByRole("navigation").getByRole("link", { name: "Plan a lesson" }));
  await page.keyboard.press("Enter");
  await page.waitForURL("**/lessons/new");
  const dishes = page.getByRole("group", { name: "Dish" }).getByRole("radio");
  await tabTo(dishes.first());
  const scones = page.getByRole("radio", { name: /Herb scones/ });
  while (!(await scones.isChecked())) await page.keyboard.press("ArrowDown");
  await tabTo(page.getByLabel("Class", { exact: true }));
  await page.keyboard.type("8 Hazel");
  await tabTo(page.getByLabel("Period", { exact: true }));
  await page.keyboard.type("Period 2");
  await tabTo(page.getByRole("button", { name: "See whether it fits" }));
  await page.keyboard.press("Enter");
  // 40 min less 5/1.8 + 5 + 2.5 + (3 + 8 · 0.25) + 1 + 0.5 + 12 + 0.5 + 3 = 32:17.
  await expect(page.locator("#figure")).toHaveText("7½ min left");
  await tabTo(page.getByRole("link", { name: "How it runs" }));
  await page.keyboard.press("Enter");
  await tabTo(page.locator("#fact-spare"));
  await page.keyboard.press("Enter");
  const spare = page.getByLabel("Spare sets");
  await tabTo(spare);
  await page.keyboard.press("Control+a");
  await page.keyboard.type("2");
  expect(await replanned(page, () => page.keyboard.press("Tab"))).toBe(200);
  await expect(page.locator("#amounts")).toContainText("and 2 spare");
  await expect(page.locator("#fact-phases")).toBeFocused(); // the focus goes on where it was going
});

test("a fact is open until Escape, another fact or a press elsewhere", async ({ page }) => {
  await page.goto("/lessons/1");
  const open = page.locator(".fact[open] > summary");
  await openFact(page, "size");
  await openFact(page, "phases");
  await expect(open).toHaveId("fact-phases");
  await page.keyboard.press("Escape");
  await expect(open).toHaveCount(0);
  await expect(page.locator("#fact-phases")).toBeFocused();
  await openFact(page, "spare");
  await page.getByLabel("Spare sets").click(); // inside: it stays
  await expect(open).toHaveId("fact-spare");
  await page.getByRole("heading", { level: 1 }).click();
  await expect(open).toHaveCount(0);
});

test("with scripts turned off", async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await plan(page, tartlets);
  await expect(page.locator("#figure")).toHaveText("2½ min missing");
  await openFact(page, "phases");
  await page.getByLabel("Phase 2: minutes").fill("5");
  await page.getByRole("button", { name: "Plan again" }).click();
  await expect(page.locator("#figure")).toHaveText("½ min left");
  await openFact(page, "phases");
  await page.getByRole("button", { name: "Take out Taste and review" }).click();
  await expect(page.locator("#figure")).toHaveText("5½ min left");
  await openFact(page, "phases");
  await page.getByLabel("Phase 1: minutes").fill("soon");
  await page.getByRole("button", { name: "Plan again" }).click();
  await expect(page.getByText("“soon” is not a number of minutes")).toBeVisible();
  await expect(page.getByLabel("Phase 1: minutes")).toHaveValue("soon");
  await context.close();
});
