import { expect, test, wellMade } from "./site.js";

// open goes to a dish by its name on the shelf.
async function open(page, title, status = "ready") {
  await page.goto(`/recipes?status=${status}`);
  await page.getByRole("link", { name: title, exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(title);
}

// understood waits until the form has been read anew.
async function understood(page, act) {
  const answer = page.waitForResponse((r) => r.url().endsWith("/read"));
  await act();
  await (await answer).finished();
}

test("the shelf is found by typing and narrowed by facts", async ({ page }) => {
  await page.goto("/recipes");
  await expect(page.locator(".count")).toHaveText("14 dishes");
  await page.getByLabel("Find").fill("lentil");
  await expect(page.locator(".count")).toHaveText("1 of 14 dishes");
  await expect(page.getByRole("link", { name: /Red lentil dal/ })).toBeVisible();
  expect(page.url()).toContain("q=lentil");
  await page.getByLabel("Find").fill("");
  await page.getByLabel("Oven").selectOption("no oven");
  await page.getByLabel("Suits").selectOption("vegan");
  await expect(page.locator(".count")).toHaveText("1 of 14 dishes");
  await wellMade(page);
  await page.reload();
  await expect(page.locator(".count")).toHaveText("1 of 14 dishes"); // the address says it all
});

test("a dish is written, understood as it is typed, ordered by keys and by dragging, and saved", async ({
  page,
}) => {
  await page.goto("/recipes");
  await page.getByRole("button", { name: "Write a new one" }).click();
  await page.waitForURL("**/recipes/edits/*");
  await wellMade(page);
  await page.getByLabel("Name of the dish").fill("Carrot squares");
  await understood(page, () =>
    page.getByLabel(/^Ingredients/).fill("Base:\n200 g plian flour\n1½ tsp baking powder\n2 carrots"),
  );
  await expect(page.locator(".taking").nth(1)).toContainText("1½ tsp baking powder");
  await expect(page.locator(".taking.unsure")).toHaveCount(1);
  await page.getByLabel("What is plian flour?").selectOption({ label: "plain flour" });
  await page.locator(".taking.unsure").getByRole("button", { name: "Take it so" }).click();
  await expect(page.getByLabel(/^Ingredients/)).toHaveValue(/plian flour \{is plain-flour\}/);
  await expect(page.locator(".taking.unsure")).toHaveCount(0);

  const titles = () =>
    page.locator(".step-title").evaluateAll((list) => list.map((field) => field.value).join(", "));
  for (const [n, title] of ["Grate", "Weigh", "Mix"].entries()) {
    if (n > 0) await page.getByRole("button", { name: "Add a step" }).click();
    await expect(page.locator(".step-title")).toHaveCount(n + 1);
    await page
      .getByLabel(/^Title of step/)
      .nth(n)
      .fill(title);
    await page.locator(".step-more > summary").nth(n).click();
    await understood(page, () =>
      page
        .getByLabel("In short", { exact: true })
        .nth(n)
        .fill(`mix, ${n + 3} min`),
    );
  }
  await page
    .getByLabel(/^Title of step/)
    .nth(1)
    .focus();
  await understood(page, () => page.keyboard.press("Alt+ArrowUp"));
  expect(await titles()).toBe("Weigh, Grate, Mix");
  await expect(page.locator(".step-title").first()).toBeFocused();
  await page.locator("[data-handle]").nth(2).hover();
  const second = await page.locator("[data-step]").nth(1).boundingBox();
  await page.mouse.down();
  await page.mouse.move(second.x + 20, Math.max(second.y, 0) + 8, { steps: 8 });
  await understood(page, () => page.mouse.up());
  expect(await titles()).toBe("Weigh, Mix, Grate");
  await page.getByRole("button", { name: "Move step 2 up" }).click();
  await expect.poll(titles).toBe("Mix, Weigh, Grate");
  await page.getByRole("button", { name: "Move step 1 down" }).click();
  await expect.poll(titles).toBe("Weigh, Mix, Grate");

  await page.reload(); // a closed laptop
  expect(await titles()).toBe("Weigh, Mix, Grate");
  await expect(page.getByLabel("Minutes of work").first()).toHaveValue("4");
  await understood(page, () => page.getByLabel("Minutes of work").first().fill("6"));
  await page.getByRole("button", { name: "Save as ready" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Carrot squares");
  // Three steps after nothing, of 6, 5 and 3 min: one cook has the first, the other the rest.
  await expect(page.locator(".verdicts")).toContainText("8 min in all");
  await wellMade(page);
});

test("a recipe is brought in and what is not understood is shown", async ({ page }) => {
  await page.goto("/recipes/import");
  await wellMade(page);
  await page
    .getByLabel("Paste it here")
    .fill(
      "Plum tray\nServes 6\n\nIngredients\n500 g plums\nmagic dust\n\nMethod\nHeat the oven to 180C.\nBake for 30 minutes.\n\nNutrition\nplenty",
    );
  await page.getByRole("button", { name: "Read it" }).click();
  await page.waitForURL("**/recipes/edits/*");
  await expect(page.getByLabel(/not understood/)).toHaveValue("plenty");
  await expect(page.locator(".taking.unsure")).toContainText("magic dust");
  await expect(page.getByLabel("Minutes of waiting").nth(1)).toHaveValue("30");
  await expect(page.getByLabel("On or in").nth(1)).toHaveValue("oven");
  await expect(page.getByLabel("°C").nth(1)).toHaveValue("180");
  await wellMade(page);
  await page.getByLabel("°C").nth(1).fill("hot");
  await page.getByRole("button", { name: "Save as draft" }).click();
  await expect(page.locator(".problem[id$='-heat-problem']")).toContainText("“hot” is not a whole number");
  await expect(page.getByLabel("°C").nth(1)).toHaveValue("hot");
  await page.getByLabel("°C").nth(1).fill("190");
  await page.getByRole("button", { name: "Save as draft" }).click();
  await expect(page.locator(".dish-state")).toContainText("A draft");
});

test("a new reading takes nothing from under the hand", async ({ page }) => {
  await page.goto("/recipes");
  await page.getByRole("button", { name: "Write a new one" }).click();
  await page.waitForURL("**/recipes/edits/*");
  const list = page.getByLabel(/^Ingredients/);
  await understood(page, () => list.fill("200 g plain flour\n2 carrots"));
  let press;
  const pressed = new Promise((done) => (press = done));
  await page.route("**/read", async (route) => {
    await pressed; // however long the hand takes, nothing has moved under it before
    await route.continue();
  });
  await list.press("End");
  await list.pressSequentially("s");
  const correct = page.locator(".correct").first();
  await correct.locator("summary").hover();
  await understood(page, async () => {
    await page.mouse.down(); // it leaves the list, which is read anew
    press();
  });
  await page.mouse.up();
  await expect(correct).toHaveAttribute("open", "");
  await correct.getByLabel("How plain flour grows").selectOption({ index: 1 });
  const chosen = await correct.getByLabel("How plain flour grows").inputValue();
  await list.fill("200 g plain flour\n2 carrots\n1 egg");
  await expect(page.locator(".taking")).toHaveCount(3);
  await expect(correct).toHaveAttribute("open", "");
  await expect(correct.getByLabel("How plain flour grows")).toHaveValue(chosen);
});

test("what was typed last may arrive after the whole was saved", async ({ page }) => {
  await page.goto("/recipes");
  await page.getByRole("button", { name: "Write a new one" }).click();
  await page.waitForURL("**/recipes/edits/*");
  await understood(page, () => page.getByLabel(/^Ingredients/).fill("200 g plain flour"));
  const later = (ms) => new Promise((done) => setTimeout(done, ms));
  await page.route("**/recipes/edits/**", async (route) => {
    if (route.request().url().endsWith("/read")) {
      await later(400);
      await route.continue().catch(() => {}); // it may have been given up
    } else {
      const response = await route.fetch({ maxRedirects: 0 });
      await later(900);
      await route.fulfill({ response });
    }
  });
  await page.getByLabel("Name of the dish").fill("Slow squares");
  await page.getByRole("button", { name: "Save as draft" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Slow squares");
});

test("mistakes are caught before thirty copies are printed, and mended by a press", async ({ page }) => {
  await open(page, "Oat and apricot tray bake", "draft");
  const findings = page.locator(".findings > li");
  await expect(page.locator("#check")).toContainText("gas mark 3 is about 160 °C");
  const before = await findings.count();
  await findings.filter({ hasText: "does not declare" }).getByRole("button", { name: "Mend it" }).click();
  await expect(page.locator("#check")).not.toContainText("does not declare");
  expect(await findings.count()).toBe(before - 1);
  await wellMade(page);
});

test("amounts follow the bench, and a way out is taken by a press", async ({ page }) => {
  await open(page, "Herb scones");
  await page.getByRole("link", { name: "Amounts" }).click();
  await page.getByLabel("Scones at a bench").fill("5");
  await page.getByLabel("Scones at a bench").press("Tab");
  const flour = page.getByRole("row", { name: /self-raising flour/ });
  await expect(flour).toContainText("140.6 g"); // 5/8 of 225 g
  await expect(flour).toContainText("141 g");
  const powder = page.getByRole("row", { name: /baking powder/ });
  await expect(powder).toContainText("Measure 39 g once for the whole class (14 sets)");
  await wellMade(page);
  await powder.getByRole("link", { name: "Do this" }).click();
  await expect(page.locator(".applied")).toContainText("Measure 39 g once");
  await page.getByLabel("Measure", { exact: true }).selectOption("by spoons and cups first");
  await expect(page.locator(".applied")).toContainText("Measure 39 g once"); // what was chosen stays
});

test("a dish of base and choices is put together within a limit", async ({ page }) => {
  await open(page, "Rainbow slaw");
  await page.getByRole("link", { name: "Choose and cost" }).click();
  await page.getByLabel(/Apple/).check();
  await page.getByLabel(/Raisins/).check();
  await page.getByLabel(/Limit for one learner/).fill("200");
  await page.getByLabel(/Limit for one learner/).press("Tab");
  await expect(page.locator(".verdict")).toContainText("Within the limit.");
  await wellMade(page);
});

test("writing without scripts", async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto("/recipes");
  await page.getByRole("button", { name: "Write a new one" }).click();
  await page.getByLabel(/^Ingredients/).fill("2 eggs");
  await page.getByRole("button", { name: "Save as ready" }).click();
  await expect(page.locator("#title-problem")).toHaveText("Give the dish a name.");
  await expect(page.getByLabel(/^Ingredients/)).toHaveValue("2 eggs");
  await page.getByLabel("Name of the dish").fill("Boiled eggs");
  await page.getByLabel(/^Title of step/).fill("Boil");
  await page.getByRole("button", { name: "Save as draft" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Boiled eggs");
  await context.close();
});

test("the pantry is looked through and added to", async ({ page }) => {
  await page.goto("/pantry");
  await wellMade(page);
  const [, all] = (await page.locator(".count").textContent()).match(/^(\d{3}) of \1 ingredients$/);
  await page.getByLabel("Find").fill("zucchini");
  await expect(page.locator(".count")).toHaveText(`1 of ${all} ingredients`);
  await page.getByRole("link", { name: "courgette" }).click();
  await wellMade(page);
  await page.getByLabel("One weighs, in grams, ready to use").fill("heavy");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("“heavy” is no mass of one")).toBeVisible();
  await page.getByLabel("One weighs, in grams, ready to use").fill("210");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("row", { name: /courgette/ })).toContainText("210 g");
  await page.goto("/pantry/settings");
  await wellMade(page);
});

test("the papers are well made", async ({ page }) => {
  await open(page, "Leek tartlets");
  const address = page.url();
  for (const paper of ["/card", "/card?form=short", "/preparation", "/preparation?key=1", "/versions"]) {
    await page.goto(address + paper);
    await wellMade(page);
  }
});
