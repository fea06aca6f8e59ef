import { expect, test, wellMade } from "./site.js";

test.describe("at the door", () => {
  test.use({ storageState: { cookies: [], origins: [] } });

  test("signing in by keyboard leads back to where one was going", async ({ page }) => {
    await page.goto("/lessons/1?by=thing");
    await page.waitForURL("**/signin?to=*");
    await wellMade(page);
    await page.getByLabel("Address").fill("nobody@quillhaven.example");
    await page.getByLabel("Password").fill("not this one");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toContainText("don’t belong together");
    await expect(page.getByLabel("Address")).toHaveValue("nobody@quillhaven.example");
    await page.getByRole("button", { name: "Idris Bell" }).focus();
    await page.keyboard.press("Enter");
    await page.waitForURL("**/lessons/1?by=thing");
    await expect(page.locator("header.frame")).toContainText("Idris Bell");
    await page.getByRole("button", { name: "Sign out" }).click();
    await page.waitForURL("**/signin");
    await page.goBack();
    await page.reload();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("Sign in");
  });

  test("a technician with a phone takes an oven out and sees which plans change", async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto("/signin");
    await page.getByRole("button", { name: "Tomas Finney" }).click();
    await page.waitForURL("**/");
    await page.getByRole("link", { name: "Rooms" }).click();
    await page.getByRole("link", { name: "Junior corner" }).click();
    await page.getByLabel("What", { exact: true }).selectOption("Portable ring 2");
    await page.getByLabel("Why").fill("gas bottle empty");
    await page.getByRole("button", { name: "Out of order today" }).click();
    await expect(page.locator("[role=status]").last()).toContainText(/plan/);
    await wellMade(page);
    await page.getByRole("button", { name: /It works again: Portable ring 2/ }).click();
    await expect(page.getByText("Everything works.")).toBeVisible();
    await page.goto("/lessons/1/food");
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("This class is somebody else’s");
  });
});

test("what was typed survives being signed out", async ({ page, context }) => {
  await page.goto("/classes/2/learners/new");
  await page.getByLabel("Given name").fill("Iris");
  const cookies = await context.cookies();
  await context.clearCookies();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("You are signed out");
  await context.addCookies(cookies);
  await page.getByRole("button", { name: "Send it again" }).click();
  await page.waitForURL("**/classes/2");
  await page.getByRole("link", { name: "Iris", exact: true }).click();
  await page.getByRole("button", { name: /Take Iris out/ }).click();
  await expect(page.locator(".lead")).toContainText("24 learners");
});

test("two learners are away: groups, amounts and the plan follow, and come back", async ({ page }) => {
  await page.goto("/lessons/5/who");
  const before = await page.locator(".teams > li").count();
  await page.locator(".away input").first().check();
  await page.locator(".away input").nth(1).check();
  await page.getByRole("button", { name: "Save who is away" }).click();
  await expect(page.locator(".lead b").first()).toHaveText("22 of 24 are there");
  expect(await page.locator(".teams > li:not(.absent)").count()).toBe(before - 2);
  await page
    .getByRole("navigation", { name: "Sides of this lesson" })
    .getByRole("link", { name: "Plan", exact: true })
    .click();
  await expect(page.locator(".effect")).toContainText("2 away");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".verdicts")).toContainText("24 learners");
});

test("a list is pasted, mended in the preview, and brought in", async ({ page }) => {
  await page.goto("/classes/bring");
  await page
    .getByLabel("The list, one learner a line")
    .fill("Class\tName\tBorn\tDiet\n8 Larch\tKit Amberley\t1/2/2040\tvegan\n8 Larch\tLo Fenn\t2/3/2014\t");
  await page.getByRole("button", { name: "Look it over" }).click();
  await expect(page.locator(".faults")).toContainText("in the future");
  await wellMade(page);
  await page.getByLabel("Born").first().fill("1/2/2014");
  await page.getByRole("button", { name: "Look it over again" }).click();
  await page.getByRole("button", { name: "Bring 2 in" }).click();
  await expect(page.locator("main")).toContainText("2 added");
  await page.goto("/classes");
  await expect(page.getByRole("row", { name: /8 Larch/ })).toContainText("2");
});

test("things on the floor are moved by keyboard and by dragging", async ({ page }) => {
  await page.goto("/rooms/2/floor");
  const bench = page.getByRole("button", { name: /^Bench 5:/ });
  const left = page.getByLabel("Bench 5: from the left, cm");
  const x = Number(await left.inputValue());
  await bench.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Shift+ArrowRight");
  await expect(left).toHaveValue(String(x + 60));
  const box = await bench.boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  expect(Number(await left.inputValue())).toBeGreaterThan(x + 60);
  await page.getByRole("button", { name: "Lay it out as usual" }).click();
  await page.waitForURL("**/rooms/2");
});

test("a safety sheet is put into the teacher's words and signed", async ({ page }) => {
  await page.goto("/lessons/7/safety");
  await page
    .getByLabel(/What is done about it: Cuts from knives/)
    .fill("Claw shown by Maren; plasters in drawer 2");
  await page.getByRole("button", { name: "Save my words" }).click();
  await page.getByRole("button", { name: "Sign it as it stands" }).click();
  await expect(page.locator(".state")).toContainText("Signed by Maren Holt");
  await page.getByRole("link", { name: "Print" }).click();
  await expect(page.locator(".running")).toContainText("plasters in drawer 2");
  const pdf = await page.pdf({ preferCSSPageSize: true });
  expect(pdf.length).toBeGreaterThan(1000);
});

test("with scripts turned off the grid is filled in and a temperature written down", async ({ browser }) => {
  const context = await browser.newContext({
    javaScriptEnabled: false,
    storageState: "test-results/head.json",
  });
  const page = await context.newPage();
  await page.goto("/lessons/1/food");
  const row = page.getByRole("row", { name: /coeliac/ });
  await row.getByRole("checkbox", { name: /gluten-free/ }).uncheck();
  await row.getByRole("button", { name: /Save the swaps/ }).click();
  await expect(page.locator(".said")).toContainText("Not safe for 1");
  await page.getByRole("button", { name: "Take the swaps that help everybody" }).click();
  await expect(page.locator(".said")).toContainText("Everybody can eat");
  await page.goto("/lessons/1/probe");
  await page.getByLabel("Where").selectOption("Bench 3");
  await page.getByLabel("°C", { exact: true }).fill("76");
  await page.getByLabel("Held for so many seconds").fill("30");
  await page.getByRole("button", { name: "Write it down" }).click();
  await expect(page.getByRole("row", { name: /Bench 3/ })).toContainText("Done by the table");
  await context.close();
});
