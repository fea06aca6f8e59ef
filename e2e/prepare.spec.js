import { expect, test, wellMade } from "./site.js";

// A technician's morning on a phone, with one thumb.
test.describe("a morning of the technician", () => {
  test.use({ storageState: { cookies: [], origins: [] }, viewport: { width: 390, height: 844 } });

  async function enter(page, name = "Tomas Finney") {
    await page.goto("/signin");
    await page.getByRole("button", { name }).click();
    await page.waitForURL("**/");
  }

  const pressed = (page, line, done = true) =>
    expect(page.locator(`form[data-line="${line}"] .tick`)).toHaveAttribute("aria-pressed", String(done));

  test("two phones on one list see each other’s ticks", async ({ page, browser }) => {
    await enter(page);
    await page.goto("/prepare/fetch");
    const second = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const other = await second.newPage();
    await enter(other, "Bea Lindqvist");
    await other.goto("/prepare/fetch");
    await page.locator('form[data-line="plain-flour"] .tick').click();
    await pressed(page, "plain-flour");
    await pressed(other, "plain-flour");
    await expect(other.locator('form[data-line="plain-flour"]')).toContainText("Tomas Finney");
    await other.locator('form[data-line="plain-flour"] .tick').click();
    await pressed(page, "plain-flour", false);
    await second.close();
  });

  test("ticks without a network are kept, sent later, and count once", async ({ page, context }) => {
    await enter(page);
    await page.goto("/prepare/fetch");
    await context.setOffline(true);
    await page.locator('form[data-line="salt"] .tick').click();
    await page.locator('form[data-line="oat-drink"] .tick').click();
    await pressed(page, "salt");
    await expect(page.locator("[data-waiting]")).toHaveText("2 ticks wait on this device for the network.");
    await context.setOffline(false);
    await expect(page.locator("[data-waiting]")).toBeHidden();
    await page.reload();
    await pressed(page, "salt");
    await pressed(page, "oat-drink");
    await expect(page.locator('form[data-line="salt"]')).toContainText("Tomas Finney");
  });

  test("from what is missing to a laid-out bench", async ({ page }) => {
    await enter(page);
    await page.getByRole("link", { name: "Prepare" }).click();
    await expect(page.getByRole("heading", { name: "First" })).toBeVisible();
    await page.locator("summary", { hasText: /^\d+ more$/ }).click();
    await page.getByRole("link", { name: "Check it in" }).click();
    await page.getByRole("button", { name: "All 1 came" }).click();
    await expect(page.locator(".check-in li").filter({ hasText: "Cornflour" })).toContainText("1 came");
    const beans = page.locator(".check-in li").filter({ hasText: "Red kidney beans" });
    await beans.getByText("Fewer, more, or another product").click();
    await beans.getByLabel("Packs that came").fill("3");
    await beans.getByLabel("Another product: its name").fill("Beans in chilli sauce");
    await beans.getByLabel("Mustard").check();
    await beans.getByRole("button", { name: "Check it in so" }).click();
    await expect(page.getByRole("alert").first()).toContainText("Read the label");
    await page.goto("/prepare/day");
    await page
      .getByRole("button", { name: /Lay out the trays/ })
      .first()
      .click();
    await expect(page.getByRole("button", { name: /Lay out the trays/ }).first()).toHaveAttribute(
      "aria-pressed",
      "true",
    );
    await page.goto("/lessons/1/trays");
    await page.getByRole("button", { name: "Bench 8" }).click();
    await expect(page.getByRole("button", { name: "Bench 8" })).toHaveAttribute("aria-pressed", "true");
    await page.goto("/prepare/store");
    await page.locator(".batches summary", { hasText: "plain yoghurt" }).click();
    const yoghurt = page.locator("details[open]");
    await yoghurt.getByLabel("Why").fill("out of date");
    await yoghurt.getByRole("button", { name: "Throw away" }).click();
    await expect(page.getByRole("status").first()).toContainText("Thrown away");
    await wellMade(page);
  });
});

test("the order is changed, sent once, and taken back", async ({ page }) => {
  await page.goto("/prepare/order");
  const delivery = page.locator(".delivery").first();
  const first = delivery.locator("tbody tr").first();
  await first.getByRole("textbox").fill("9");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").first()).toContainText(/Planned anew round it/);
  await page.locator(".delivery").first().getByRole("button", { name: "Back to the cheapest" }).click();
  await expect(page.getByRole("status").first()).toContainText("the cheapest again");
  const stale = await page.context().newPage();
  await stale.goto("/prepare/order");
  await page
    .locator(".delivery")
    .first()
    .getByRole("button", { name: /^Send it/ })
    .click();
  await page.waitForURL("**/prepare/orders/*");
  await expect(page.locator("main")).toContainText("accepted");
  await stale
    .locator(".delivery")
    .first()
    .getByRole("button", { name: /^Send it/ })
    .click();
  await expect(stale.getByRole("alert").first()).toContainText("changed after this page was opened");
  await stale.close();
  await page.getByRole("button", { name: "Cancel this order" }).click();
  await expect(page.locator("main")).toContainText("cancelled");
});

test("a price list is looked through before it is taken", async ({ page }) => {
  await page.goto("/prepare/prices");
  await page.getByLabel("Whose").selectOption({ label: "Fernhill Growers" });
  await page
    .getByLabel("or paste it")
    .fill("Code,Product,Pack,Price\nF-leek,Leeks,3,1.55\nF-new,Purple carrots 1kg,,0.90\nF-bad,Kale,1 kg,0");
  await page.getByRole("button", { name: "See what it changes" }).click();
  await expect(page.locator(".preview")).toContainText("Row 4");
  await expect(page.locator(".preview")).toContainText("the price is 0");
  await page.getByRole("button", { name: "Take it over" }).click();
  await expect(page.getByRole("status").first()).toContainText("Taken over");
  await page.goto("/prepare/prices?q=F-leek");
  await expect(page.locator("main")).toContainText("£1.55");
});
