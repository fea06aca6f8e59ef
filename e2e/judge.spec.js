import { expect, test, wellMade } from "./site.js";

test("a learner chooses, writes a time plan, and it is judged", async ({ page, browser }) => {
  await page.goto("/judge");
  await page.getByRole("link", { name: "Harvest table for grandparents" }).click();
  const code = await page.locator(".practice-code b").textContent();
  const tablet = await browser.newContext({
    storageState: undefined,
    viewport: { width: 1024, height: 768 },
  });
  const screen = await tablet.newPage();
  await screen.goto(new URL("/task", page.url()).href);
  await screen.getByLabel("The code of your task").fill(code);
  await screen.keyboard.press("Enter");
  await screen.getByLabel("Your name").selectOption("Yara");
  await screen.getByRole("radio", { name: "whisk" }).check();
  await wellMade(screen);
  await screen.getByRole("button", { name: "Come in" }).click();
  await wellMade(screen);
  const conditions = screen.locator("#conditions");
  await expect(conditions).toContainText("3 are chosen");
  // The conditions follow what is pressed before it is saved, by keys too.
  const roll = screen.getByRole("listitem").filter({ hasText: "Jam sponge roll" });
  await roll.getByRole("radio", { name: "no", exact: true }).focus();
  await screen.keyboard.press("ArrowRight");
  await expect(conditions).toContainText("4 are chosen");
  await screen.keyboard.press("ArrowLeft");
  await expect(conditions).toContainText("3 are chosen");
  await screen.getByRole("link", { name: "Your time plan" }).click();
  await expect(screen.locator(".plan-line")).toBeVisible();
  await wellMade(screen);
  await screen.getByLabel("Clock").first().fill("half ten");
  await screen.getByRole("button", { name: "Save and check" }).click();
  await expect(screen.locator(".plan-findings")).toContainText("“half ten” is no time of day");
  await expect(screen.getByLabel("Clock").first()).toHaveValue("half ten");
  await screen.getByLabel("Clock").first().fill("8.55");
  await screen.getByRole("button", { name: "Save and check" }).click();
  await expect(screen.getByText("No rule finds fault with it.")).toBeVisible();
  await tablet.close();
});

test("who walks round goes on without a network", async ({ page, context }) => {
  await page.goto("/judge/1/walk");
  const row = page.locator(".walk-list > li").nth(3);
  await context.setOffline(true);
  await row.getByRole("button", { name: /: behind$/ }).click();
  await row.getByText("Note or question").click();
  await row.getByLabel(/^Note about/).fill("pan too hot, mended at once");
  await row.getByRole("button", { name: "Write it down" }).click();
  await expect(page.locator("[data-waiting-presses]")).toHaveText("2 not sent yet");
  await context.setOffline(false);
  await expect(page.locator("[data-waiting-presses]")).toBeHidden({ timeout: 15_000 });
  await page.reload();
  await expect(row).toContainText("pan too hot, mended at once");
  await wellMade(page);
});

test("the second marker finishes, the two agree, and the sheet is whole", async ({ page, browser }) => {
  await page.goto("/judge/1/marks");
  await page.locator("tbody th a").last().click();
  const address = page.url();
  await expect(page.getByText("Signe Amsel is not done").first()).toBeVisible();
  const other = await browser.newContext({ storageState: undefined });
  const second = await other.newPage();
  await second.goto(new URL("/signin", address).href);
  await second.getByRole("button", { name: /Signe Amsel/ }).click();
  await expect(second.getByRole("heading", { level: 1 })).toHaveText("Judge");
  await second.goto(address);
  await wellMade(second);
  for (const field of await second.locator(".mark-field input:visible").all()) await field.fill("4");
  await second.getByRole("button", { name: /^Done with/ }).click();
  await second.goto(address);
  await expect(second.getByRole("heading", { name: "The result" })).toBeVisible();
  await second.getByLabel("Agreed total").fill("61");
  await second.getByLabel("Because").fill("both looked at the tart again");
  await second.getByRole("button", { name: "It is agreed" }).click();
  await page.reload();
  await expect(page.locator("main")).toContainText("It counts: 61 C, because both looked at the tart again.");
  await wellMade(page);
  await other.close();
});

test("a class tastes at a bench", async ({ page }) => {
  await page.goto("/lessons/1/tasting");
  await wellMade(page);
  const slips = page.locator(".stars section").first();
  const before = await slips.textContent();
  await page.getByRole("radio", { name: "Herb scones", exact: true }).check();
  for (const scale of await page.locator(".taste-scale").all()) await scale.getByLabel("4").check();
  await page.getByRole("button", { name: "Hand it in" }).click();
  await expect(slips).not.toHaveText(before);
});
