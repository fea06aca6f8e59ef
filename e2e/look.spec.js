import { expect, test, wellMade } from "./site.js";

// The views at the sizes they are made for. With PICTURES set to a folder the
// pictures of the README are taken on the way.
const views = [
  { name: "today", address: "/", width: 1280, height: 800 },
  { name: "new-lesson", address: "/lessons/new", width: 1280, height: 800 },
  { name: "lesson", address: "/lessons/1", width: 1280, height: 800 },
  { name: "lesson-amounts", address: "/lessons/1#amounts", width: 1280, height: 800 },
  { name: "lesson-too-long", address: "/lessons/5", width: 1280, height: 800 },
  { name: "lesson-projector", address: "/lessons/2", width: 1920, height: 1080 },
  { name: "lesson-phone", address: "/lessons/2", width: 390, height: 844 },
  { name: "print", address: "/lessons/1/print", width: 820, height: 1160 },
  { name: "recipes", address: "/recipes", width: 1280, height: 800 },
  { name: "recipe", address: "/recipes/8", width: 1280, height: 800 },
  { name: "recipe-check", address: "/recipes/16#check", width: 1280, height: 800 },
  { name: "recipe-amounts", address: "/recipes/6/amounts?pieces=5", width: 1280, height: 800 },
  { name: "recipe-phone", address: "/recipes/8/amounts", width: 390, height: 844 },
  { name: "card-short", address: "/recipes/8/card?form=short", width: 820, height: 1160 },
  { name: "preparation", address: "/recipes/8/preparation", width: 820, height: 1160 },
  { name: "pantry", address: "/pantry?q=flour", width: 1280, height: 800 },
];

for (const view of views) {
  test(`${view.name} at ${view.width} × ${view.height}`, async ({ page }) => {
    await page.setViewportSize(view);
    await page.goto(view.address);
    await page.evaluate(() => document.fonts.ready);
    await wellMade(page);
    const overflow = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect(overflow, "nothing pushes the page wider than the screen").toBeLessThanOrEqual(0);
    if (process.env.PICTURES) await page.screenshot({ path: `${process.env.PICTURES}/${view.name}.png` });
  });
}

test("writing a recipe at 1280 × 800", async ({ page }) => {
  await page.goto("/recipes/16");
  await page.getByRole("button", { name: "Edit" }).click();
  await page.waitForURL("**/edits/*");
  await page.evaluate(() => document.fonts.ready);
  await wellMade(page);
  if (process.env.PICTURES) await page.screenshot({ path: `${process.env.PICTURES}/recipe-edit.png` });
  await page.getByRole("button", { name: "Throw this writing away" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Oat and apricot tray bake");
});

test("the print-out is one A4 page", async ({ page }) => {
  for (const lesson of [1, 2, 3, 4, 5, 6]) {
    await page.goto(`/lessons/${lesson}/print`);
    const pdf = await page.pdf({ preferCSSPageSize: true });
    const pages = pdf.toString("latin1").match(/\/Type\s*\/Page\b(?!s)/g);
    expect(pages, `lesson ${lesson}`).toHaveLength(1);
  }
});
