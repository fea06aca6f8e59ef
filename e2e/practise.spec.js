import { expect, test, wellMade } from "./site.js";

// What a learner is given is chosen by how sure they are; a test goes on until it meets
// each instrument.
async function until(page, at, meets, most = 40) {
  for (let n = 0; n < most; n++) {
    await page.goto(at);
    if (await meets()) return;
    const answer = page.locator("#answer");
    if (await answer.count())
      await answer.fill(
        (await page.locator("label[for=answer]").textContent()).includes("time") ? "10:00" : "1",
      );
    const choice = page.locator(".choice-big input");
    if (await choice.count()) await choice.first().check();
    const fill = page.getByRole("button", { name: /^Fill/ });
    if (await fill.count()) await fill.first().click();
    const middle = page.getByRole("button", { name: "One cut in the middle" });
    if (await middle.count()) await middle.click();
    const spoonful = page.getByRole("button", { name: "A spoonful", exact: true });
    if (await page.getByRole("button", { name: "Bowl on or off" }).count())
      await page.getByRole("button", { name: "Bowl on or off" }).click();
    if (await spoonful.count()) await spoonful.click();
    const pour = page.getByRole("button", { name: "Pour (hold)" });
    if ((await pour.count()) && !(await spoonful.count())) await pour.press("Enter");
    await page.locator("form.practise-form .actions button").click();
    await expect(page.locator(".outcome")).toBeVisible();
  }
  throw new Error("it never came");
}

test("a learner weighs, pours, levels and cuts, by pointer and by keys", async ({ page, browser }) => {
  test.slow(); // six tasks by the pointer and by keys take a minute on a slow machine
  await page.goto("/classes/2/practice");
  await expect(page.locator(".practice-code b")).toBeVisible();
  const code = await page.locator(".practice-code b").textContent();
  await wellMade(page);
  const phone = await browser.newContext({ storageState: undefined, viewport: { width: 390, height: 844 } });
  const screen = await phone.newPage();
  await screen.goto(new URL("/practise", page.url()).href);
  await screen.getByLabel("The code of your class").fill(code);
  await screen.getByRole("button", { name: "Come in" }).click();
  await wellMade(screen);
  await screen.getByLabel("Your name").selectOption("I am not on the list");
  await screen.getByRole("button", { name: "Begin" }).click();
  await expect(screen).toHaveURL(/practise\/at\//);
  const at = screen.url();

  // The scale: the bowl, zero, and then by hand until it shows what is wanted.
  await until(
    screen,
    at,
    async () => (await screen.getByRole("button", { name: "Bowl on or off" }).count()) > 0,
  );
  const want = Number((await screen.locator("h1").textContent()).match(/Weigh (\d+) g/)[1]);
  await screen.getByRole("button", { name: "A spoonful", exact: true }).click();
  await expect(screen.locator(".drawing-says")).toContainText("There is no bowl");
  await screen.getByRole("button", { name: "Bowl on or off" }).click();
  await screen.getByRole("button", { name: "Set to zero" }).press("Enter");
  const shown = async () =>
    Number((await screen.locator(".drawing-says").textContent()).match(/shows (-?\d+)/)?.[1] ?? NaN);
  await expect.poll(shown).toBe(0);
  const pour = screen.getByRole("button", { name: "Pour (hold)" });
  for (let n = 0; n < 60; n++) {
    const now = await expect.poll(shown).not.toBeNaN().then(shown);
    const left = want - now;
    if (Math.abs(left) < 1) break;
    if (left > 60) await pour.click({ delay: 600 });
    else {
      // As many as surely do not come to more: a hand is uneven.
      const [each, name] = Math.abs(left) > 15 ? [14.4, "A spoonful"] : [1.2, "A pinch"];
      const press = screen.getByRole("button", { name: left > 0 ? name : `${name} back`, exact: true });
      for (let k = 0; k < Math.max(1, Math.floor(Math.abs(left) / each)); k++) await press.press("Space");
    }
    await screen.waitForTimeout(400);
  }
  await wellMade(screen);
  await screen.locator("form.practise-form .actions button").click();
  await expect(screen.locator(".outcome")).toContainText("Right.");

  // The cut: laid evenly by keys in all three directions.
  await until(screen, at, async () => (await screen.locator("[data-cut]").count()) > 0);
  for (const way of ["across", "along it, upright", "along it, flat"]) {
    await screen.getByLabel(way).check();
    await screen.getByRole("button", { name: "Lay cuts so" }).press("Enter");
  }
  await wellMade(screen);
  await screen.locator("form.practise-form .actions button").click();
  await expect(screen.locator(".outcome")).toContainText("pieces from");
  await expect(screen.locator(".outcome .pieces")).toBeVisible();
  await phone.close();
});

test("even pieces are measured with a ruler, and what was written stays", async ({ page }) => {
  await page.goto("/even");
  await page.getByLabel("The pieces, a line each, in mm").fill("10 11 9\nten\n12 10 10");
  await page.getByRole("button", { name: "Measure" }).click();
  await expect(page.locator(".problem")).toContainText("Line 2");
  await expect(page.getByLabel("The pieces, a line each, in mm")).toHaveValue("10 11 9\nten\n12 10 10");
  await page.getByLabel("The pieces, a line each, in mm").fill("10 11 9\n14 10 10\n12 10 10");
  await page.getByRole("button", { name: "Measure" }).click();
  await expect(page.locator(".even-says")).toContainText("times as long");
  await wellMade(page);
});
